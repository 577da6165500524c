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

const single = `${takes}<div ${classes}>
  ${label}
  ${hint}
  ${control}
  ${errors}
</div>
`;

/** Labels above their controls. */
export const stacked: Readonly<Record<string, string>> = {
  fields: `<meta (takes form, summary = false)>
<div class="fields fields-stacked">
  ${summary}
  <slot></slot>
</div>
`,
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
  choices: `${takes}<fieldset ${classes} id=\${field.id} aria-describedby=\${field.describedBy}>
  ${legend}
  ${hint}
  ${boxes}
  ${errors}
</fieldset>
`,
  file: `${takes}<div ${classes}>
  ${label}
  ${hint}
  ${files}
  ${control}
  ${errors}
</div>
`,
  group: `${takes}<fieldset ${classes} id=\${field.id} aria-describedby=\${field.describedBy}>
  <legend>\${field.label}</legend>
  ${hint}
  ${inner('field.name')}
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
