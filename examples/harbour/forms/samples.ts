/** The form of a stay with what it offers on the demo day, for samples. */
import { boatChoices } from '../data/samples.ts';
import { createStayForm } from './stay-form.ts';

export const stayForm = createStayForm({
  berthsOf: async (pontoon) => [{ value: 1, label: `${pontoon}1`, group: 'With power' }],
  findBoats: async () => boatChoices,
  boatOf: async (id) => boatChoices.find(({ value }) => value === id),
});
