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

const inLine = (content: string): string => `${takes}<div ${classes}>${content} ${hint} ${errors}</div>
`;

/** Labels beside their controls, one field after another. */
export const inline: Readonly<Record<string, string>> = {
  fields: fieldsIn('inline'),
  text: inLine(`${label} ${control}`),
  'long-text': inLine(`${label} ${control}`),
  choice: inLine(`${label} ${control}`),
  checkbox: inLine(`${control} ${label}`),
  choices: choicesFieldset,
  file: inLine(`${label} ${control} ${files}`),
  group: groupFieldset,
  list: listFieldset,
};
