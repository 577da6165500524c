/** Compiled templates as ES modules, for projects that are built ahead. */
import { builtFormat, helperNames } from '../runtime/index.ts';
import type { Compilation } from './compilation.ts';
import type { GeneratedTemplate } from './generate.ts';
import { dataLiteral, literal } from './parts.ts';
import { sourceMap } from './source-map.ts';
import type { Template } from './template-set.ts';

export interface BuildOptions {
  /** The template’s file as the map of a module names it; both paths as given, the module’s below the built folder. */
  sourceOf(file: string, module: string): string;
  /** Files for `asset(…)`. */
  assets: ReadonlyMap<string, string> | undefined;
}

/** A file of the built folder. */
export interface BuiltFile {
  /** Below the built folder, with `/` between folders. */
  path: string;
  text: string;
  /** The template that it was built from. */
  template?: Template;
}

/** What every built module begins with. */
const mark = '// Built by zip-loom; changes here are lost.';

/** Where built modules find the run-time. */
const runtimeModule = 'runtime.js';

/** All files that a build writes. The templates must be free of problems. */
export function buildFiles(compilation: Compilation, options: BuildOptions): BuiltFile[] {
  const { templates } = compilation.set;
  const modules = templates.flatMap((template): BuiltFile[] => {
    const path = modulePath(template);
    const { code, map } = buildModule(template, compilation, options);
    return [
      { path, text: code, template },
      { path: `${path}.map`, text: map },
    ];
  });
  return [
    ...modules,
    { path: 'index.js', text: indexModule(compilation, options) },
    // The package is looked up once, not by every module.
    { path: runtimeModule, text: `${mark}\nexport * from 'zip-loom/runtime';\n` },
    {
      path: 'index.d.ts',
      text: "import type { BuiltTemplates } from 'zip-loom';\n\nexport declare const templates: BuiltTemplates;\n",
    },
  ];
}

/** `partials/fields.html#berth-row` → `partials/fields.berth-row.js` */
export function modulePath(template: Template): string {
  return `${template.id.replace(/\.html(?=#|$)/, '').replace('#', '.')}.js`;
}

function buildModule(
  template: Template,
  compilation: Compilation,
  options: BuildOptions,
): { code: string; map: string } {
  const generated = compilation.generate(template);
  const path = modulePath(template);
  const before = `// Built by zip-loom from ${template.tree.file}; changes here are lost.\n${importLines(generated, path)}\n`;
  const exported = generated.renderName === 'render' ? 'render' : `${generated.renderName} as render`;
  const code = `${before}${generated.code}\nexport { ${exported} };\n\n${description(generated, compilation)}`;
  const map = sourceMap({
    code,
    offset: before.length,
    mappings: generated.mappings,
    source: options.sourceOf(template.tree.file, path),
    content: template.tree.source,
  });
  return { code: `${code}//# sourceMappingURL=${path.slice(path.lastIndexOf('/') + 1)}.map\n`, map };
}

function importLines({ runtimeNames, templateNames }: GeneratedTemplate, path: string): string {
  const names = [...runtimeNames].map(([name, local]) => (name === local ? name : `${name} as ${local}`));
  const fromRuntime =
    names.length > 0 ? `import { ${names.sort().join(', ')} } from '${relativePath(path, runtimeModule)}';\n` : '';
  const templates = [...templateNames]
    .filter(([template]) => modulePath(template) !== path)
    .map(([template, local]) => `import { render as ${local} } from '${relativePath(path, modulePath(template))}';\n`);
  return fromRuntime + templates.join('');
}

/** What a loom has to know of the template, as the module’s default export. */
function description({ template, renderName, templateNames }: GeneratedTemplate, compilation: Compilation): string {
  const facts = compilation.factsOf(template);
  const fields: Array<[string, string]> = [
    ['id', literal(template.id)],
    ['name', literal(template.name)],
    ['kind', literal(template.kind)],
    ['file', literal(template.tree.file)],
    ['required', dataLiteral(compilation.requiredOf(template))],
    ['choosesLayout', String(compilation.set.chooserOf(template) !== undefined)],
    ['facts', dataLiteral(facts)],
    ['module', 'import.meta.url'],
    ['render', renderName],
  ];
  const own = templateNames.get(template);
  // A template that calls itself knows itself by the name of the call.
  const alias = own ? `const ${own} = ${renderName};\n\n` : '';
  return `${alias}export default {\n${fields.map(([name, value]) => `  ${name === value ? name : `${name}: ${value}`},\n`).join('')}};\n`;
}

function indexModule(compilation: Compilation, { assets }: BuildOptions): string {
  const { templates } = compilation.set;
  const imports = templates.map((template, index) => `import t${index} from './${modulePath(template)}';\n`).join('');
  const used = new Set(templates.flatMap((template) => [...compilation.resolve(template).used]));
  const own = [...used].filter((name) => name !== 'context' && name !== 'slots' && !helperNames.includes(name)).sort();
  const files = used.has('asset') && assets ? `  assets: new Map(${dataLiteral([...assets])}),\n` : '';
  return `${mark}
${imports}
export const templates = {
  format: ${builtFormat},
  templates: [${templates.map((_, index) => `t${index}`).join(', ')}],
  helpers: ${dataLiteral(own)},
  postsForms: ${compilation.postsForms()},
${files}};
`;
}

/** From one module to another, both below the built folder. */
function relativePath(from: string, to: string): string {
  const up = from.split('/').slice(0, -1);
  const down = to.split('/');
  while (up.length > 0 && down.length > 1 && up[0] === down[0]) {
    up.shift();
    down.shift();
  }
  return `${up.length === 0 ? './' : '../'.repeat(up.length)}${down.join('/')}`;
}
