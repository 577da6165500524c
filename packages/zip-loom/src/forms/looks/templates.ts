/** Templates that come with the library. A project’s own of the same name are in their place. */
import { flashTemplate } from '../../kernel/index.ts';
import { inline } from './inline.ts';
import { stacked } from './stacked.ts';
import { table } from './table.ts';

/** What a look has a template for: the kinds of controls, and what is around all fields. */
const parts = ['fields', 'text', 'long-text', 'choice', 'checkbox', 'choices', 'file', 'group', 'list'] as const;

/** The look that takes the place of what another does not have. */
const usualLook = 'stacked';

const ownLooks: Readonly<Record<string, Readonly<Record<string, string>>>> = { stacked, inline, table };

const flashMessages = `<meta (takes ...rest)>
<div class="flash-messages" \${...rest} (region flash)>
  <template (for message of context.flash)>
  <p (if !message.action) class="flash-\${message.role}" role=\${message.role} id="flash-\${message.id}">\${message.text}</p>
  <div (else) class="flash-\${message.role}" role=\${message.role} id="flash-\${message.id}">
    <p>\${message.text}</p>
    <a (if message.action.method === 'get') href=\${message.action.url}>\${message.action.label}</a>
    <form (else) method=\${message.action.method} action=\${message.action.url}><button>\${message.action.label}</button></form>
  </div>
  </template>
</div>
`;

const formField = `<meta (takes form, name: string, label?: string, hint?: string, id?: string, look = "stacked", autofocus = false, prompt?: string, ...rest)>
<field-in-look form=\${form} field=\${form.field(name, { label, hint, id, look, autofocus, prompt })} \${...rest}></field-in-look>
`;

const formControl = `<meta (takes form, field, ...rest)>
<template (bind form)><textarea (if field.control === 'long-text') name=\${field.name} id=\${field.id} aria-describedby=\${field.describedBy} autofocus=\${field.autofocus} \${...rest}></textarea><select (else if field.control === 'choice' && field.prompt) name=\${field.name} id=\${field.id} aria-describedby=\${field.describedBy} autofocus=\${field.autofocus} \${...rest}><option value="">\${field.prompt}</option></select><select (else if field.control === 'choice') name=\${field.name} id=\${field.id} aria-describedby=\${field.describedBy} autofocus=\${field.autofocus} \${...rest}></select><template (else if field.suggestions.length > 0 && !('list' in rest))><input name=\${field.name} id=\${field.id} aria-describedby=\${field.describedBy} list="\${field.id}-list" autofocus=\${field.autofocus} \${...rest}><datalist id="\${field.id}-list"><option (for one of field.suggestions) value=\${one.label}></option></datalist></template><input (else) name=\${field.name} id=\${field.id} aria-describedby=\${field.describedBy} autofocus=\${field.autofocus} \${...rest}></template>
`;

/**
 * Templates of forms for a project.
 * @param files its templates: those in `looks/` are looks of its own, or parts of ours
 */
export function formTemplates(files: ReadonlyMap<string, { source: string }>): Record<string, string> {
  const flash = { [`zip-loom/${flashTemplate}.html`]: flashMessages };
  if (![...files.values()].some(({ source }) => /<form-(?:field|control)/i.test(source))) return flash;
  const looks = looksOf(files);
  const ofLooks = Object.entries(ownLooks)
    .filter(([look]) => looks.has(look))
    .flatMap(([look, templates]) =>
      Object.entries(templates).map(([part, source]) => [`zip-loom/looks/${look}/${part}.html`, source]),
    );
  return {
    ...flash,
    ...Object.fromEntries(ofLooks),
    'zip-loom/form-field.html': formField,
    'zip-loom/form-control.html': formControl,
    'zip-loom/form-fields.html': formFields(looks),
    'zip-loom/field-in-look.html': fieldInLook(looks),
  };
}

/** The looks that a project uses, with the parts that each has: what nobody asks for need not be compiled. */
function looksOf(files: ReadonlyMap<string, { source: string }>): Map<string, Set<string>> {
  const looks = new Map(Object.entries(ownLooks).map(([look, templates]) => [look, new Set(Object.keys(templates))]));
  const named = new Set([usualLook]);
  let isAnyNamed = false;
  for (const [path, { source }] of files) {
    const [, look, part] = /(?:^|\/)looks\/([^/]+)\/([^/]+)\.html$/.exec(path) ?? [];
    if (look !== undefined && part !== undefined) looks.set(look, (looks.get(look) ?? new Set()).add(part));
    for (const [, name] of source.matchAll(/\blook\s*=\s*["']?([\w-]+)/g)) named.add(name!);
    // A name that is worked out, or is among attributes that are handed on, may be any.
    isAnyNamed ||= /\blook\s*=\s*["']?\$|\blook\s*:|<form-fields?\b[^<>]*\.\.\./.test(source);
  }
  return isAnyNamed ? looks : new Map([...looks].filter(([look]) => named.has(look)));
}

/** The name of the template for a part of a look. */
function called(look: string, part: string, looks: ReadonlyMap<string, ReadonlySet<string>>): string {
  return `look-${looks.get(look)?.has(part) ? look : usualLook}-${part}`;
}

function formFields(looks: ReadonlyMap<string, ReadonlySet<string>>): string {
  const known = JSON.stringify([...looks.keys()]);
  const each = '<field-in-look (for field of fields) form=${form} field=${field}></field-in-look>';
  const around = [...looks.keys()].map((look, at) => {
    const name = called(look, 'fields', looks);
    return `<${name} (${at === 0 ? '' : 'else '}if look === '${look}') form=\${form} summary=\${summary}>${each}</${name}>`;
  });
  return `<meta (takes form, look = "stacked", only?, except?, within?: string, written?, summary = false)>
<template (let fields = form.fields({ only, except, within, written, look, looks: ${known} }))>
<template (if within !== undefined)>${each}</template>
<template (else)>${around.join('\n')}</template>
</template>
`;
}

function fieldInLook(looks: ReadonlyMap<string, ReadonlySet<string>>): string {
  const chains = [...looks.keys()].map((look, at) => {
    const calls = parts.slice(1).map((part, index) => {
      const name = called(look, part, looks);
      const condition = `(${index === 0 ? '' : 'else '}if field.control === '${part}')`;
      return `<${name} ${condition} form=\${form} field=\${field} \${...rest}></${name}>`;
    });
    return `<template (${at === 0 ? '' : 'else '}if field.look === '${look}')>${calls.join('')}</template>`;
  });
  return `<meta (takes form, field, ...rest)>\n${chains.join('\n')}\n`;
}
