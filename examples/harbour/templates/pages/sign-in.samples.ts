import { signInForm } from '../../forms/forms.ts';

export const samples = { usual: { signInForm: signInForm.blank() } };
