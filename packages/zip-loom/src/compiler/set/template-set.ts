/**
 * All templates of a project and how they refer to each other: which name calls which, which layout is around which, which slots are
 * open. One set is made from the trees of all files; nothing in it changes afterwards.
 */
import type { TemplateDiagnostic } from '../../diagnostics/index.ts';
import type { LayoutChooser, LayoutRules } from '../../kernel/index.ts';
import type { TemplateTree } from '../../language/index.ts';
import { templateDiagnostic } from '../diagnostics.ts';
import { hyphenated } from './hyphenated.ts';
import { layoutChooser, layoutsOf } from './layouts.ts';
import { Partials } from './partials.ts';
import { collecting, placeOfName, type Reading, type SetReport, type Template, templatesOfFile } from './template.ts';

export interface SetOptions {
  /** The folder whose templates are pages. */
  pagesFolder?: string;
  layouts?: LayoutRules;
  isBrowserElement?: (name: string) => boolean;
}

export interface TemplateSet {
  /** What each file holds. */
  files: ReadonlyMap<TemplateTree, FileTemplates>;
  /** In the order of the files. */
  templates: Template[];
  pages: ReadonlyMap<string, Template>;
  partials: Partials;
  /** Files that could not be read whole: what seems wrong with what they hold may follow from that. */
  broken: ReadonlySet<TemplateTree>;
  diagnostics: TemplateDiagnostic[];
  isBrowserElement: (name: string) => boolean;
  /** Whether any template of the project has a region. */
  hasRegions: boolean;
  /** Whether any template of the project has content that may come late. */
  hasLateContent: boolean;
  /** Whether any template of the project has a file field for a form that is in another. */
  hasStrayFiles: boolean;
  /** Whether any template of the project has a button that changes a form instead of sending it off. */
  hasEdits: boolean;
  /** The layout around a template, if any. */
  layoutOf(template: Template): Template | undefined;
  /** What names the layout of a page for each request, where that is so. */
  chooserOf(template: Template): LayoutChooser | undefined;
  /** Names of the slots that a call or a page can fill; `default` for the one without a name. */
  openSlots(template: Template): ReadonlySet<string>;
  /** Those of them that are in a `<title>`, where there is only text. */
  titleSlots(template: Template): ReadonlySet<string>;
}

/** What one file holds, whatever is in others. */
interface FileTemplates {
  templates: Template[];
  diagnostics: TemplateDiagnostic[];
}

function readFile(path: string, tree: TemplateTree, reading: Reading): FileTemplates {
  const diagnostics: TemplateDiagnostic[] = [];
  return { templates: templatesOfFile(path, tree, reading, collecting(diagnostics)), diagnostics };
}

/**
 * Resolves the names of all templates.
 * @param trees by path below the templates’ folder, with `/` between folders
 * @param broken trees of files that could not be read whole
 * @param previous the set before, made with the same options: what is known of trees that are the same is not worked out again
 */
export function resolveSet(
  trees: ReadonlyMap<string, TemplateTree>,
  options: SetOptions = {},
  previous?: TemplateSet,
  broken: ReadonlySet<TemplateTree> = new Set(),
): TemplateSet {
  const diagnostics: TemplateDiagnostic[] = [];
  const report = collecting(diagnostics);
  const pagesFolder = `${options.pagesFolder ?? 'pages'}/`;
  const isBrowserElement = options.isBrowserElement ?? (() => false);
  const folders = { pagesFolder, isBrowserElement };
  const files = new Map<TemplateTree, FileTemplates>();
  for (const [path, tree] of trees) files.set(tree, previous?.files.get(tree) ?? readFile(path, tree, folders));
  const templates = [...files.values()].flatMap((file) => file.templates);
  for (const file of files.values()) diagnostics.push(...file.diagnostics);
  const pages = new Map(templates.filter(({ kind }) => kind === 'page').map((page) => [page.name, page]));
  const partials = new Partials(templates.filter(({ kind }) => kind === 'partial'));
  const layouts = layoutsOf(templates, { pages, partials }, options.layouts ?? {}, report);
  const layoutOf = (template: Template) => layouts.get(template);
  reportNames(templates, layouts, pagesFolder, report);
  const slots = new Map<Template, ReadonlySet<string>>();
  const openSlots = (template: Template): ReadonlySet<string> => {
    let open = slots.get(template);
    if (!open) {
      const layout = layoutOf(template);
      open = new Set(layout ? [...template.contents.slots, ...openSlots(layout)] : template.contents.slots);
      slots.set(template, open);
    }
    return open;
  };
  return {
    files,
    templates,
    pages,
    partials,
    broken,
    diagnostics,
    isBrowserElement,
    hasRegions: templates.some(({ contents }) => contents.clauses.includes('region')),
    hasLateContent: templates.some(({ contents }) => contents.clauses.includes('meanwhile')),
    hasStrayFiles: templates.some(({ contents }) => contents.hasStrayFile),
    hasEdits: templates.some(({ contents: { clauses } }) => editKinds.some((kind) => clauses.includes(kind))),
    layoutOf,
    chooserOf: (template) => layoutChooser(template, options.layouts ?? {}),
    openSlots,
    titleSlots: (template) => {
      const found = new Set<string>();
      for (let at: Template | undefined = template; at; at = layoutOf(at))
        for (const name of at.contents.titleSlots) found.add(name);
      return found;
    },
  };
}

const editKinds = ['add', 'remove', 'refresh', 'back'] as const;

/** Names that cannot be called. A layout is named, not called, so that it needs no hyphen. */
function reportNames(
  templates: readonly Template[],
  layouts: ReadonlyMap<Template, Template | undefined>,
  pagesFolder: string,
  report: SetReport,
): void {
  const used = new Set(layouts.values());
  const called = new Set(templates.flatMap(({ contents }) => contents.calls));
  for (const template of templates) {
    const { name, kind, id, isDocument, contents } = template;
    if (kind === 'page') continue;
    const isIdle = !used.has(template) && !called.has(name) && contents.slots.length === 0;
    if (isDocument && isIdle)
      report(template, placeOfName(template), templateDiagnostic('misplaced-page', { pages: pagesFolder }));
    if (!/^[a-z][a-z0-9._-]*$/.test(name))
      report(
        template,
        placeOfName(template),
        templateDiagnostic('invalid-template-name', { name, proposal: kebabName(name) }),
      );
    else if (!name.includes('-') && !used.has(template) && !/(?:^|\/)layouts\//.test(id))
      report(
        template,
        placeOfName(template),
        templateDiagnostic('missing-hyphen', { name, proposal: proposedName(template), pages: pagesFolder }),
      );
  }
}

/** `BerthCard` → `berth-card`; `undefined` where that makes no name either. */
function kebabName(name: string): string | undefined {
  const kebab = hyphenated(name);
  return /^[a-z][a-z0-9]*(?:-[a-z0-9]+)+$/.test(kebab) ? kebab : undefined;
}

/** Folders that say what is in them, not what it is about. */
const plainFolders = new Set(['', 'partials', 'parts', 'components', 'includes', 'shared', 'common', 'templates']);

/** A name with a hyphen for a template that has none: after its folder, where that says anything. */
function proposedName({ name, id }: Template): string {
  const folder = id.split('#')[0]!.split('/').at(-2) ?? '';
  return `${plainFolders.has(folder) || !/^[a-z][a-z0-9]*$/.test(folder) ? 'site' : folder}-${name}`;
}
