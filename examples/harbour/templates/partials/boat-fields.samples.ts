import { boatForm } from '../../forms/forms.ts';

export const samples = { usual: { boatForm: boatForm.blank({ kind: 'sail' }) } };
