/** One more page, partial, layout or form, where it belongs. */

import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { LoomError } from 'zip-loom/internal/diagnostics';
import { commandDiagnostic } from '../../console/index.ts';
import type { Project } from '../../project/index.ts';

export const kinds = ['page', 'partial', 'layout', 'form'] as const;

export type PartKind = (typeof kinds)[number];

export interface NewPart {
  /** By their paths. */
  files: Record<string, string>;
  /** How it is used. */
  next: string;
}

/** What a name has to be. */
const fitting: Record<PartKind, { pattern: RegExp; example: string }> = {
  page: { pattern: /^[a-z0-9][\w-]*(?:\/[a-z0-9][\w-]*)*$/i, example: 'berths/list' },
  partial: { pattern: /^[a-z][a-z0-9]*(?:-[a-z0-9]+)+$/, example: 'berth-card' },
  layout: { pattern: /^[a-z][a-z0-9]*(?:-[a-z0-9]+)*$/, example: 'staff-layout' },
  form: { pattern: /^[a-z][a-z0-9]*(?:-[a-z0-9]+)*$/, example: 'boat' },
};

/** @throws {LoomError} for a name that such a part cannot have */
export function newPart(kind: PartKind, name: string, project: Project): NewPart {
  const { pattern, example } = fitting[kind];
  if (!pattern.test(name)) throw new LoomError(commandDiagnostic('invalid-part-name', { kind, name, example }));
  return makers[kind](name, project);
}

const makers: Record<PartKind, (name: string, project: Project) => NewPart> = {
  page: (name, { templates, pages }) => ({
    files: {
      [join(templates, pages.pathOf(`${name}.html`))]:
        `<title slot="title">${titleOf(name)}</title>\n<h1>${titleOf(name)}</h1>\n`,
    },
    next: `loom.respond(request, '${name}') shows it; what it takes goes into <meta (takes …)> at its top.`,
  }),
  partial: (name, { templates }) => ({
    files: {
      [join(templates, 'partials', `${name}.html`)]:
        `<meta (takes heading: string)>\n<section class="${name}">\n  <h2>\${heading}</h2>\n  <slot></slot>\n</section>\n`,
    },
    next: `<${name} heading="…">…</${name}> calls it.`,
  }),
  layout: (name, { templates }) => ({
    files: { [join(templates, 'layouts', `${name}.html`)]: layout },
    next: `<meta (layout ${name})> on a page, or layouts: { 'folder/**': '${name}' } in the configuration, puts pages into it.`,
  }),
  form: (name, project) => {
    const isTyped = existsSync(join(project.folder, 'tsconfig.json'));
    const script = isTyped ? 'ts' : 'js';
    const constant = `${camelCased(name)}Form`;
    const type = constant.slice(0, 1).toUpperCase() + constant.slice(1);
    const take = isTyped
      ? `<meta (import { ${type} } from "../../forms/${name}-form.ts") (takes ${constant}: ${type}, action: string)>`
      : `<meta (takes ${constant}, action)>`;
    return {
      files: {
        [join(project.folder, 'forms', `${name}-form.${script}`)]: formText(name, { constant, type, isTyped }),
        [join(project.templates, 'partials', `${name}-form.html`)]:
          `${take}\n<form (bind ${constant}) action=\${action} method="post">\n  <p (errors)></p>\n  <form-field name="name"></form-field>\n  <p><button>Save</button></p>\n</form>\n`,
      },
      next: `<${name}-form ${name}-form=\${${constant}} action="/…"></${name}-form> shows it, and “await exchange.read(${constant})” reads it.`,
    };
  },
};

function formText(
  name: string,
  { constant, type, isTyped }: { constant: string; type: string; isTyped: boolean },
): string {
  return `import { defineForm${isTyped ? ', type FormViewOf' : ''} } from 'zip-loom/forms';
import { z } from 'zod';
import { commandDiagnostic } from '../../console/index.ts';
import type { Project } from '../../project/index.ts';

/** What it takes, and how it is shown. */
export const ${constant} = defineForm('${name}', z.object({ name: z.string().min(2).max(80) }), {
  labels: { name: 'Name' },
});
${isTyped ? `\n/** What templates take. */\nexport type ${type} = FormViewOf<typeof ${constant}>;\n` : ''}`;
}

const layout = `<!doctype html>
<html lang="en">
  <head>
    <meta charset="utf-8">
    <meta name="viewport" content="width=device-width, initial-scale=1">
    <title><slot name="title">Welcome</slot></title>
    <slot name="head"></slot>
  </head>
  <body>
    <main>
      <slot></slot>
    </main>
  </body>
</html>
`;

/** `berths/new-list` → `New list` */
function titleOf(name: string): string {
  const words = name.split('/').at(-1)!.replaceAll('-', ' ');
  return words.slice(0, 1).toUpperCase() + words.slice(1);
}

function camelCased(name: string): string {
  return name.replace(/-([a-z0-9])/g, (_, letter: string) => letter.toUpperCase());
}
