import { importForm } from '../../../forms/forms.ts';

const refused = [{ line: 4, name: 'Salt Plover', reason: 'The length is no number.' }];

export const samples = {
  before: { importForm: importForm.blank() },
  half: { importForm: importForm.blank(), report: { total: 240, taken: 120, refused } },
};
