import { stayForm } from '../../../forms/samples.ts';

export const samples = {
  'as a table': { stayForm: stayForm.blank(), look: 'table' },
  stacked: { stayForm: stayForm.blank(), look: 'stacked' },
  inline: { stayForm: stayForm.blank(), look: 'inline' },
};
