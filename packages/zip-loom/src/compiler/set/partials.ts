/** Which template a name calls: of several with one name, the nearest to the caller. */
import { filePath, isBuiltIn, type Template } from './template.ts';

/** Templates that are called by their names. */
export class Partials {
  private readonly byName = new Map<string, Template[]>();
  /** What was found, by folder of the caller and name. */
  private readonly found = new Map<string, readonly Template[]>();

  constructor(templates: Iterable<Template>) {
    for (const template of templates) {
      const same = this.byName.get(template.name);
      if (same) same.push(template);
      else this.byName.set(template.name, [template]);
    }
  }

  /** All names, each once. */
  names(): Iterable<string> {
    return this.byName.keys();
  }

  all(): Template[] {
    return [...this.byName.values()].flat();
  }

  /** What a name calls; from code where there is no caller. Where several are equally near, the first. */
  called(name: string, caller?: Template): Template | undefined {
    return this.nearest(name, caller)[0];
  }

  /** Those that a name could call, where several are equally near; else none. */
  rivals(name: string, caller?: Template): readonly Template[] {
    const nearest = this.nearest(name, caller);
    return nearest.length > 1 ? nearest : [];
  }

  private nearest(name: string, caller: Template | undefined): readonly Template[] {
    const same = this.byName.get(name);
    if (!same || same.length === 1) return same ?? [];
    const folder = caller ? folderOf(caller) : '';
    const key = `${folder}\n${name}`;
    const known = this.found.get(key);
    if (known) return known;
    const nearest = nearestOf(same, folder);
    this.found.set(key, nearest);
    return nearest;
  }
}

/** Those in the folder or its parts, else in the folders above it, one after another, else the rest; those of the library last. */
function nearestOf(templates: readonly Template[], folder: string): readonly Template[] {
  for (let at = folder; ; at = at.slice(0, Math.max(0, at.lastIndexOf('/')))) {
    for (const place of [at, at === '' ? 'parts' : `${at}/parts`]) {
      const here = templates.filter((template) => folderOf(template) === place);
      if (here.length > 0) return here;
    }
    if (at === '') break;
  }
  const own = templates.filter((template) => !isBuiltIn(template));
  return own.length > 0 ? own : templates;
}

/** The folder of a template’s file, below the templates’ folder. */
function folderOf(template: Template): string {
  const path = filePath(template);
  return path.slice(0, Math.max(0, path.lastIndexOf('/')));
}
