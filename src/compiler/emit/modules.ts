/** Compiled templates as ES modules, one for each folder, for projects that are built ahead. */
import { builtFormat } from '../../page/index.ts';
import { helperNames } from '../../runtime/index.ts';
import { dataLiteral } from '../code.ts';
import type { Compilation } from '../compilation.ts';
import type { Template } from '../set/template.ts';
import { type GeneratedModule, type GeneratedTemplate, generateModule } from './generate.ts';
import { type MappedPart, sourceMap } from './source-map.ts';
import { functionName } from './unique-names.ts';

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
  /** The templates that it was built from. */
  templates?: Template[];
}

/** What every built module begins with. */
const mark = '// Built by zip-loom; changes here are lost.';

/** Where built modules find the run-time. */
const runtimeModule = 'runtime.js';

/** All files that a build writes. The templates must be free of errors. */
export function buildFiles(compilation: Compilation, options: BuildOptions): BuiltFile[] {
  const folders = byModule(compilation.set.templates);
  const exported = new Map([...folders.values()].flatMap(exportedNames));
  const modules = [...folders].flatMap(([path, templates]): BuiltFile[] => {
    const { code, map } = buildModule(path, templates, { compilation, exported, options });
    return [
      { path, text: code, templates },
      { path: `${path}.map`, text: map },
    ];
  });
  return [
    ...modules,
    // The package is looked up once, not by every module.
    { path: runtimeModule, text: `${mark}\nexport * from 'zip-loom/runtime';\n` },
    { path: 'index.js', text: indexModule([...folders.keys()], compilation, options) },
    {
      path: 'index.d.ts',
      text: "import type { BuiltTemplates } from 'zip-loom';\n\nexport declare const built: BuiltTemplates;\n",
    },
  ];
}

function byModule(templates: readonly Template[]): Map<string, Template[]> {
  const folders = new Map<string, Template[]>();
  for (const template of templates) {
    const path = modulePath(template);
    folders.set(path, [...(folders.get(path) ?? []), template]);
  }
  return folders;
}

/** `pages/berths/list.html` → `pages/berths.js` */
function modulePath({ id }: Template): string {
  const folder = id.includes('/') ? id.slice(0, id.lastIndexOf('/')) : 'templates';
  return folder === 'index' || folder === 'runtime' ? `${folder}-templates.js` : `${folder}.js`;
}

/** What each template of a module is called outside of it. */
function exportedNames(templates: Template[]): Array<[Template, string]> {
  const taken = new Set<string>();
  return templates.map((template) => {
    const name = functionName(template);
    let own = name;
    for (let count = 2; taken.has(own); count++) own = `${name}_${count}`;
    taken.add(own);
    return [template, own];
  });
}

interface Surroundings {
  compilation: Compilation;
  /** What each template of the project is called outside of its module. */
  exported: ReadonlyMap<Template, string>;
  options: BuildOptions;
}

function buildModule(path: string, templates: Template[], around: Surroundings): { code: string; map: string } {
  const { compilation, exported, options } = around;
  const module = generateModule(templates.map((template) => compilation.lower(template)));
  let code = `${mark}\n${importLines(module, path, exported)}`;
  const parts = module.templates.map((generated): MappedPart => {
    const { template } = generated;
    code += `\n// ${template.tree.file}\n`;
    const offset = code.length;
    code += generated.code;
    const source = options.sourceOf(template.tree.file, path);
    return { offset, mappings: generated.mappings, source, content: template.tree.source };
  });
  const names = module.templates.map(({ template, renderName }) => {
    const name = exported.get(template)!;
    return name === renderName ? name : `${renderName} as ${name}`;
  });
  const descriptions = module.templates.map((generated) => description(generated, compilation));
  code += `\nexport { ${names.join(', ')} };\n\nexport const templates = [\n${descriptions.join('')}];\n`;
  const file = path.slice(path.lastIndexOf('/') + 1);
  return { code: `${code}//# sourceMappingURL=${file}.map\n`, map: sourceMap(code, parts) };
}

function importLines(
  { templates, runtimeNames, templateNames }: GeneratedModule,
  path: string,
  exported: Surroundings['exported'],
): string {
  const own = new Set(templates.map(({ template }) => template));
  const imports = new Map<string, string[]>();
  const add = (from: string, name: string, local: string) => {
    imports.set(from, [...(imports.get(from) ?? []), name === local ? name : `${name} as ${local}`]);
  };
  for (const [name, local] of runtimeNames) add(runtimeModule, name, local);
  for (const [template, local] of templateNames)
    if (!own.has(template)) add(modulePath(template), exported.get(template)!, local);
  return [...imports]
    .map(([from, names]) => `import { ${names.sort().join(', ')} } from '${relativePath(path, from)}';\n`)
    .join('');
}

/** What a loom has to know of a template. */
function description({ template, renderName }: GeneratedTemplate, compilation: Compilation): string {
  const optional = compilation.optionalOf(template);
  const fields: Array<[string, string]> = [
    ['id', dataLiteral(template.id)],
    ['name', dataLiteral(template.name)],
    ['kind', dataLiteral(template.kind)],
    ['file', dataLiteral(template.tree.file)],
    ['required', dataLiteral(compilation.requiredOf(template))],
    ['optional', optional === undefined ? 'undefined' : dataLiteral(optional)],
    ['choosesLayout', String(compilation.set.chooserOf(template) !== undefined)],
    ['facts', dataLiteral(compilation.factsOf(template))],
    ['module', 'import.meta.url'],
    ['render', renderName],
  ];
  return `  {\n${fields.map(([name, value]) => `    ${name === value ? name : `${name}: ${value}`},\n`).join('')}  },\n`;
}

function indexModule(paths: string[], compilation: Compilation, { assets }: BuildOptions): string {
  const { templates } = compilation.set;
  const imports = paths.map((path, index) => `import { templates as folder${index} } from './${path}';\n`).join('');
  const used = new Set(templates.flatMap((template) => compilation.helpersOf(template)));
  const own = [...used].filter((name) => !helperNames.includes(name)).sort();
  const files = used.has('asset') && assets ? `  assets: new Map(${dataLiteral([...assets])}),\n` : '';
  return `${mark}
${imports}
export const built = {
  format: ${builtFormat},
  templates: [${paths.map((_, index) => `...folder${index}`).join(', ')}],
  helpers: ${dataLiteral(own)},
  framesItself: ${compilation.framesItself()},
  postsForms: ${compilation.postsForms()},
  base: ${dataLiteral(compilation.base)},
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
