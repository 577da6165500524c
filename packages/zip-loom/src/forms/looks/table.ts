import {
  addButton,
  boxes,
  classes,
  control,
  errors,
  files,
  hint,
  label,
  mark,
  removeButton,
  summary,
  takes,
} from './markup.ts';

const row = (heading: string, content: string): string => `${takes}<tr ${classes}>
  <th scope="row">${heading}</th>
  <td>
    ${content}
    ${hint}
    ${errors}
  </td>
</tr>
`;

/** A row for each field; the rows of a list are those of a table of its own. */
export const table: Readonly<Record<string, string>> = {
  fields: `<meta (takes form, summary = false)>
<div class="fields fields-table">
  ${summary}
  <table>
    <tbody>
      <slot></slot>
    </tbody>
  </table>
</div>
`,
  text: row(label, control),
  'long-text': row(label, control),
  choice: row(label, control),
  checkbox: row(label, control),
  choices: row(
    `<span id="\${field.id}-label">\${field.label}</span> ${mark}`,
    `<div role="group" id=\${field.id} aria-labelledby="\${field.id}-label" aria-describedby=\${field.describedBy}>${boxes}</div>`,
  ),
  file: row(label, `${files}\n    ${control}`),
  group: row(
    `<span id="\${field.id}-label">\${field.label}</span>`,
    `<div role="group" id=\${field.id} aria-labelledby="\${field.id}-label" aria-describedby=\${field.describedBy}>
      <table><tbody><form-fields form=\${form} look="table" within=\${field.name} written=\${field.written}></form-fields></tbody></table>
    </div>`,
  ),
  list: `${takes}<tr ${classes}>
  <td colspan="2">
    <table class="field-rows" id=\${field.id} aria-describedby=\${field.describedBy}>
      <caption>\${field.label} ${mark}</caption>
      <thead (let rows = form.items(field.name)) (if rows.length > 0)>
        <tr>
          <th scope="col" (for column of field.columns)>
            \${column.label} <span class="field-mark" (if column.required) role="img" aria-label=\${field.requiredText}>*</span>
            <input (bind form) (if column.isBox) type="checkbox" aria-label=\${column.allText} (select-all \${column.name})>
          </th>
          <td></td>
        </tr>
      </thead>
      <tbody>
        <tr (for row of form.items(field.name))>
          <td (for cell of form.fields({ within: row.path, look: 'stacked' }))>
            <form-control (if cell.isSingle) form=\${form} field=\${cell} aria-label="\${cell.label}, \${row.label}"></form-control>
            <field-in-look (else) form=\${form} field=\${cell}></field-in-look>
            <p class="field-errors" (if cell.isSingle) (bind form) (errors \${cell.name})></p>
          </td>
          <td>${removeButton}</td>
        </tr>
      </tbody>
    </table>
    ${hint}
    ${errors}
    ${addButton}
  </td>
</tr>
`,
};
