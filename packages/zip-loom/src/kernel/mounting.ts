/** Where on its host a site is mounted: `/app`, or '' for the root. */

/** A path that begins with one slash, as browsers read it, with what they strip before it (URL §4.4). */
const rootPath = /^([\u0000-\u0020]*)(\/(?![/\\\t\n\r]).*)$/s;

/** A URL from the root of the site as one from the root of the host. What already leads below the base, and any other URL, is left alone. */
export function mountedURL(url: string, base: string): string {
  const found = base === '' ? null : rootPath.exec(url);
  if (!found) return url;
  const [, before = '', path = ''] = found;
  const rest = path.startsWith(base) ? path[base.length] : undefined;
  const isBelow = path === base || rest === '/' || rest === '?' || rest === '#';
  return isBelow ? url : before + base + path;
}

/** The same for the files of a project. */
export function mountedFiles(
  files: ReadonlyMap<string, string> | undefined,
  base: string,
): ReadonlyMap<string, string> | undefined {
  if (!files || base === '') return files;
  let mounted = known.get(files);
  if (!mounted) {
    mounted = new Map([...files].map(([path, url]) => [path, mountedURL(url, base)]));
    known.set(files, mounted);
  }
  return mounted;
}

/** A map of files is asked for with each page, and is the same while nothing has changed. */
const known = new WeakMap<ReadonlyMap<string, string>, ReadonlyMap<string, string>>();

/** The option `base` without the slash at its end. */
export function baseOf(option: string | undefined): string {
  let base = option ?? '';
  while (base.endsWith('/')) base = base.slice(0, -1);
  return base;
}
