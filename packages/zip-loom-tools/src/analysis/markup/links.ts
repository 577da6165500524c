/** Links and forms whose paths the site does not answer, as far as templates write them out. */
import { nearest, placed, type TemplateDiagnostic } from 'zip-loom/internal/diagnostics';
import { type Attribute, attributeOf, isCallName, type TemplateTree, walk } from 'zip-loom/internal/language';
import { markupDiagnostic } from './diagnostics.ts';

export interface LinkSettings {
  paths: readonly string[];
  base: string;
  isFile(path: string): boolean;
}

/** Attributes that lead to pages. */
const leading: Readonly<Record<string, string>> = {
  a: 'href',
  area: 'href',
  form: 'action',
  button: 'formaction',
  input: 'formaction',
};

/** Stands for a value in a path. */
const value = '\0';

export function lostLinks({ file, children }: TemplateTree, settings: LinkSettings): TemplateDiagnostic[] {
  const found: TemplateDiagnostic[] = [];
  const answered = settings.paths.map(segmentsOf);
  walk(children, {
    element: (element) => {
      const attribute = isCallName(element.name) ? undefined : attributeOf(element, leading[element.name] ?? '');
      const path = attribute && pathOf(attribute, settings.base);
      if (!attribute || path === undefined || settings.isFile(path)) return undefined;
      const segments = segmentsOf(path);
      if (!answered.some((one) => matches(segments, one))) {
        const shown = path.replaceAll(value, '…');
        found.push(
          placed(
            markupDiagnostic('lost-link', { path: shown, nearest: nearest(shown, settings.paths) }),
            file,
            attribute,
          ),
        );
      }
      return undefined;
    },
  });
  return found;
}

/** The path of a URL of this site, without the base; `undefined` for any other, and for one that begins with a value. */
function pathOf({ value: parts }: Attribute, base: string): string | undefined {
  const text = (parts ?? []).map((part) => (part.kind === 'text' ? part.text : value)).join('');
  const [path = ''] = text.split(/[?#]/);
  if (!path.startsWith('/') || path.startsWith('//') || path.includes('\\')) return undefined;
  return base !== '' && (path === base || path.startsWith(`${base}/`)) ? path.slice(base.length) || '/' : path;
}

function segmentsOf(path: string): string[] {
  return path.replace(/\/$/, '').split('/').slice(1);
}

/** `:name` is one segment, whatever it is, and `*` at the end is any number of them. */
function matches(path: readonly string[], route: readonly string[]): boolean {
  if (route.at(-1) === '*')
    return path.length >= route.length - 1 && matches(path.slice(0, route.length - 1), route.slice(0, -1));
  return (
    path.length === route.length &&
    route.every((one, at) => one.startsWith(':') || path[at]!.includes(value) || path[at] === one)
  );
}
