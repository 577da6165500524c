import { boat } from '../../../data/samples.ts';
import { boatForm } from '../../../forms/forms.ts';

const { photo: _, insurance: __, ...values } = boat;

export const samples = { usual: { boat, boatForm: boatForm.from(values, { version: boat.revision }) } };
