import {
  addButton,
  boxes,
  classes,
  control,
  errors,
  files,
  hint,
  inner,
  label,
  legend,
  removeButton,
  summary,
  takes,
} from './markup.ts';

const single = `${takes}<div ${classes}>${label} ${control} ${hint} ${errors}</div>
`;

/** Labels beside their controls, one field after another. */
export const inline: Readonly<Record<string, string>> = {
  fields: `<meta (takes form, summary = false)>
<div class="fields fields-inline">
  ${summary}
  <slot></slot>
</div>
`,
  text: single,
  'long-text': single,
  choice: single,
  checkbox: `${takes}<div ${classes}>${control} ${label} ${hint} ${errors}</div>
`,
  choices: `${takes}<fieldset ${classes} id=\${field.id} aria-describedby=\${field.describedBy}>${legend} ${boxes} ${hint} ${errors}</fieldset>
`,
  file: `${takes}<div ${classes}>${label} ${control} ${files} ${hint} ${errors}</div>
`,
  group: `${takes}<fieldset ${classes} id=\${field.id} aria-describedby=\${field.describedBy}>
  <legend>\${field.label}</legend>
  ${inner('field.name')}
  ${hint}
  ${errors}
</fieldset>
`,
  list: `${takes}<fieldset ${classes} id=\${field.id} aria-describedby=\${field.describedBy}>
  ${legend}
  ${hint}
  <div class="field-row" role="group" aria-label=\${row.label} (for row of form.items(field.name))>
    ${inner('row.path')}
    ${removeButton}
  </div>
  ${errors}
  ${addButton}
</fieldset>
`,
};
