import {
  choicesFieldset,
  classes,
  control,
  errors,
  fieldsIn,
  files,
  groupFieldset,
  hint,
  label,
  listFieldset,
  takes,
} from './markup.ts';

const single = `${takes}<div ${classes}>
  ${label}
  ${hint}
  ${control}
  ${errors}
</div>
`;

/** Labels above their controls. */
export const stacked: Readonly<Record<string, string>> = {
  fields: fieldsIn('stacked'),
  text: single,
  'long-text': single,
  choice: single,
  checkbox: `${takes}<div ${classes}>
  ${control}
  ${label}
  ${hint}
  ${errors}
</div>
`,
  choices: choicesFieldset,
  file: `${takes}<div ${classes}>
  ${label}
  ${hint}
  ${files}
  ${control}
  ${errors}
</div>
`,
  group: groupFieldset,
  list: listFieldset,
};
