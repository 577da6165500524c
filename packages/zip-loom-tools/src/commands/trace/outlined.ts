/** A page with its parts outlined, as one file that needs nothing else. */
import { readFileSync } from 'node:fs';
import { lineMarks } from 'zip-loom/internal/protocol';
import type { ServedFiles } from '../../project/index.ts';

/** @param marked what a loom that traces has rendered */
export function outlinedPage(marked: string, files: ServedFiles): string {
  const script = readFileSync(new URL('../outlines.min.js', import.meta.url), 'utf8');
  const page = withSheets(marked.replace(lineMarks, ''), files)
    // Its own policy and its own scripts are for the site.
    .replace(/<meta http-equiv="content-security-policy"[^>]*>/gi, '')
    .replace(/<script\b[^>]*\bsrc=[^>]*><\/script>/gi, '');
  const inspector = `<script type="module">${script.replaceAll('</script', '<\\/script')}</script>`;
  const end = page.toLowerCase().lastIndexOf('</body>');
  return end === -1 ? page + inspector : page.slice(0, end) + inspector + page.slice(end);
}

/** Style sheets are written into the page. */
function withSheets(html: string, files: ServedFiles): string {
  return html.replace(/<link\b[^>]*\brel="stylesheet"[^>]*>/gi, (link) => {
    const [, url] = /\bhref="([^"]*)"/i.exec(link) ?? [];
    const file = url === undefined ? undefined : files.find(new URL(url, 'http://localhost/').pathname);
    return file === undefined
      ? link
      : `<style>\n${readFileSync(file, 'utf8').replaceAll('</style', '<\\/style')}\n</style>`;
  });
}
