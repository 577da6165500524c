/** Templates that come with the library. A project’s own of the same name are in their place. */
export const formTemplates: Readonly<Record<string, string>> = {
  'zip-loom/form-field.html': `<meta (takes form, name: string, label?: string, hint?: string, id?: string, ...rest)>
<template (let field = form.field(name, { label, hint })) (bind form)>
<div class=\${['field', \`field-\${field.control}\`, field.invalid && 'field-invalid']}>
  <label (if field.control !== 'checkbox') for=\${name}>\${field.label}</label>
  <p (if field.hint && field.control !== 'checkbox') class="field-hint" id=\${field.hintId}>\${field.hint}</p>
  <div class="field-files" (if field.files.length > 0) id=\${field.filesId}>
    <p class="field-file" (for file of field.files)>
      <a (if file.url) href=\${file.url}>\${file.text}</a><template (else)>\${file.text}</template>
      <label (if !file.isKept)><input type="checkbox" name="loom-remove" value=\${name} checked=\${file.isRemoved}> \${file.removeLabel}</label>
    </p>
  </div>
  <textarea (if field.control === 'textarea') name=\${name} id=\${id} aria-describedby=\${field.describedBy} \${...rest}></textarea>
  <select (else if field.control === 'select') name=\${name} id=\${id} aria-describedby=\${field.describedBy} \${...rest}></select>
  <input (else) name=\${name} id=\${id} aria-describedby=\${field.describedBy} \${...rest}>
  <label (if field.control === 'checkbox') for=\${name}>\${field.label}</label>
  <p (if field.hint && field.control === 'checkbox') class="field-hint" id=\${field.hintId}>\${field.hint}</p>
  <p class="field-errors" (errors \${name})></p>
</div>
</template>
`,
  'zip-loom/flash-messages.html': `<meta (takes ...rest)>
<div class="flash-messages" \${...rest} (region flash)>
  <p (for message of context.flash) class="flash-\${message.role}" role=\${message.role} id="flash-\${message.id}">\${message.text}</p>
</div>
`,
};
