import { detailsForm, passwordForm } from '../../forms/forms.ts';

export const samples = {
  usual: {
    detailsForm: detailsForm.from({ name: 'Hal Brackwell', email: 'hal@tern.example' }),
    passwordForm: passwordForm.blank(),
  },
};
