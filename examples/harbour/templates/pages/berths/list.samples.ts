import { firstBerths, noBerths } from '../../../data/samples.ts';
import { searchForm } from '../../../forms/forms.ts';

export const samples = {
  'the first page': { ...firstBerths, searchForm: searchForm.blank() },
  'none found': { ...noBerths, searchForm: searchForm.blank({ q: 'Z' }) },
};
