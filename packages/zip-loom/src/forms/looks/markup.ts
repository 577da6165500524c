/** Markup that the looks of the library share. */

/** What every template of a look takes. */
export const takes = '<meta (takes form, field, ...rest)>\n';

/** The classes of a whole field. */
export const classes = "class=${['field', `field-${field.control}`, field.invalid && 'field-invalid']}";

export const mark = '<span class="field-mark" (if field.required) role="img" aria-label=${field.requiredText}>*</span>';

export const label = `<span class="field-label"><label for=\${field.id}>\${field.label}</label> ${mark}</span>`;

/** A label that names several controls. */
const legend = `<legend>\${field.label} ${mark}</legend>`;

export const hint = '<p (if field.hint) class="field-hint" id=${field.hintId}>${field.hint}</p>';

export const control = '<form-control form=${form} field=${field} ${...rest}></form-control>';

export const errors = '<p class="field-errors" (bind form) (errors ${field.name})></p>';

export const files = `<div class="field-files" (if field.files.length > 0) id=\${field.filesId}>
    <p class="field-kept-file" (for file of field.files)>
      <a (if file.url) href=\${file.url}>\${file.text}</a><template (else)>\${file.text}</template>
      <label (if !file.isKept)><input type="checkbox" name="loom-remove" value=\${field.name} checked=\${file.isRemoved}> \${file.removeLabel}</label>
    </p>
  </div>`;

/** Boxes, one for each choice. */
export const boxes =
  '<label (bind form) (for choice of field.choices)><input type="checkbox" name="${field.name}[]" value=${choice.value} aria-describedby=${field.describedBy}> ${choice.label}</label>';

export const summary = '<ul class="form-errors" (if summary) (bind form) (errors)></ul>';

export const addButton = '<button (bind form) (add ${field.name}) class="field-add">${field.addText}</button>';

export const removeButton =
  '<button (bind form) (remove ${field.name} ${row.index}) class="field-remove" aria-label=${row.removeText}>${field.removeText}</button>';

/** The fields inside of a group, or of a row. */
const inner = (within: string): string =>
  `<form-fields form=\${form} look=\${field.look} within=\${${within}} written=\${field.written}></form-fields>`;

/** Boxes, a group or a list, each with its label as a legend. */
const fieldset = (content: string): string =>
  `${takes}<fieldset ${classes} id=\${field.id} aria-describedby=\${field.describedBy}>
  ${content}
</fieldset>
`;

export const choicesFieldset = fieldset(`${legend}
  ${hint}
  ${boxes}
  ${errors}`);

export const groupFieldset = fieldset(`<legend>\${field.label}</legend>
  ${hint}
  ${inner('field.name')}
  ${errors}`);

export const listFieldset = fieldset(`${legend}
  ${hint}
  <div class="field-row" role="group" aria-label=\${row.label} (for row of form.items(field.name))>
    ${inner('row.path')}
    ${removeButton}
  </div>
  ${errors}
  ${addButton}`);

/** All fields, one after another. */
export const fieldsIn = (look: string): string => `<meta (takes form, summary = false)>
<div class="fields fields-${look}">
  ${summary}
  <slot></slot>
</div>
`;
