import { stayForm } from '../../../forms/samples.ts';
import { staySteps } from '../../../forms/stay-form.ts';

export const samples = { 'the first step': { stayForm: stayForm.steps(staySteps).blank() } };
