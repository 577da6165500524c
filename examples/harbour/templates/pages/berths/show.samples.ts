import { berth, comments, staysOfTheBerth } from '../../../data/samples.ts';
import { commentForm } from '../../../forms/forms.ts';

const usual = {
  berth,
  stays: staysOfTheBerth,
  comments,
  watched: false,
  watchers: 2,
  commentForm: commentForm.blank(),
};

export const samples = { usual, 'nothing known': { ...usual, stays: [], comments: [], watchers: 0 } };
