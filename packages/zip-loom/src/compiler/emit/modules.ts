/** Compiled templates as ES modules, one for each folder, for projects that are built ahead. */
import { builtFormat } from '../../kernel/index.ts';
import { helperNames } from '../../render/index.ts';
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
  /** The module that a template is in, below the built folder. Default: one for each folder of templates. */
  moduleOf?(template: Template): string;
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
const runtimePath = 'runtime.js';

/** All files that a build writes. The templates must be free of errors. */
export function buildFiles(compilation: Compilation, options: BuildOptions): BuiltFile[] {
  const modules = new BuiltModules(compilation, options);
  const files = modules.paths().flatMap((path): BuiltFile[] => {
    const { code, map, templates } = modules.module(path)!;
    return [
      { path, text: `${code}//# sourceMappingURL=${path.slice(path.lastIndexOf('/') + 1)}.map\n`, templates },
      { path: `${path}.map`, text: map },
    ];
  });
  return [
    ...files,
    // The package is looked up once, not by every module.
    { path: runtimePath, text: runtimeModule },
    { path: 'index.js', text: modules.index() },
    {
      path: 'index.d.ts',
      text: "import type { BuiltTemplates } from 'zip-loom';\n\nexport declare const built: BuiltTemplates;\n",
    },
  ];
}

const runtimeModule = `${mark}\nexport * from 'zip-loom/runtime';\n`;

/** A module of templates; its map is JSON. */
export interface BuiltModule {
  code: string;
  map: string;
  templates: Template[];
}

/** The modules of one state of a project, each made when it is asked for. */
export class BuiltModules {
  private readonly compilation: Compilation;
  private readonly options: BuildOptions;
  private readonly moduleOf: (template: Template) => string;
  private readonly byPath = new Map<string, Template[]>();
  /** What each template of the project is called outside of its module. */
  private readonly exported: ReadonlyMap<Template, string>;

  constructor(compilation: Compilation, options: BuildOptions) {
    this.compilation = compilation;
    this.options = options;
    this.moduleOf = options.moduleOf ?? folderModule;
    for (const template of compilation.set.templates) {
      const path = this.moduleOf(template);
      this.byPath.set(path, [...(this.byPath.get(path) ?? []), template]);
    }
    this.exported = new Map([...this.byPath.values()].flatMap(exportedNames));
  }

  paths(): string[] {
    return [...this.byPath.keys()];
  }

  /** @returns `undefined` for a path that no template has */
  module(path: string): BuiltModule | undefined {
    const templates = this.byPath.get(path);
    return templates && { ...this.built(path, templates), templates };
  }

  /** The module that puts templates together for a loom: all of them, or some with all that they can come to call. */
  index(wanted?: Iterable<Template>): string {
    const { compilation } = this;
    const templates = wanted
      ? [...new Set([...wanted].flatMap((template) => [...compilation.closure(template)]))]
      : compilation.set.templates;
    const paths = [...new Set(templates.map((template) => this.moduleOf(template)))];
    return indexModule(paths, templates, compilation, this.options);
  }

  private built(path: string, templates: Template[]): { code: string; map: string } {
    const { compilation, exported, options } = this;
    const module = generateModule(templates.map((template) => compilation.lower(template)));
    let code = `${mark}\n${this.importLines(module, path)}`;
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
    return { code, map: sourceMap(code, parts) };
  }

  private importLines({ templates, runtimeNames, templateNames }: GeneratedModule, path: string): string {
    const own = new Set(templates.map(({ template }) => template));
    const imports = new Map<string, string[]>();
    const add = (from: string, name: string, local: string) => {
      imports.set(from, [...(imports.get(from) ?? []), name === local ? name : `${name} as ${local}`]);
    };
    for (const [name, local] of runtimeNames) add(runtimePath, name, local);
    for (const [template, local] of templateNames)
      if (!own.has(template)) add(this.moduleOf(template), this.exported.get(template)!, local);
    return [...imports]
      .map(([from, names]) => `import { ${names.sort().join(', ')} } from '${relativePath(path, from)}';\n`)
      .join('');
  }
}

/** `pages/berths/list.html` → `pages/berths.js` */
function folderModule({ id }: Template): string {
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

function indexModule(
  paths: string[],
  templates: readonly Template[],
  compilation: Compilation,
  { assets }: BuildOptions,
): string {
  const imports = paths.map((path, index) => `import { templates as folder${index} } from './${path}';\n`).join('');
  const used = new Set(templates.flatMap((template) => compilation.helpersOf(template)));
  const usesOurs = [...used].some((name) => helperNames.includes(name));
  const ours = usesOurs ? `import { createHelpers } from '${relativePath('index.js', runtimePath)}';\n` : '';
  const own = [...used].filter((name) => !helperNames.includes(name)).sort();
  const files = used.has('asset') && assets ? `  assets: new Map(${dataLiteral([...assets])}),\n` : '';
  return `${mark}
${ours}${imports}
export const built = {
  format: ${builtFormat},
  templates: [${paths.map((_, index) => `...folder${index}`).join(', ')}],
  helpers: ${dataLiteral(own)},
${usesOurs ? '  createHelpers,\n' : ''}  framesItself: ${compilation.framesItself(templates)},
  postsForms: ${compilation.postsForms(templates)},
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
