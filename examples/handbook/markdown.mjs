/** Chapters of Markdown: their markup, their headings, and what the search finds in them. */
import { posix } from 'node:path';
import { Marked } from 'marked';

/**
 * @param name the page of the chapter, such as `forms` or `reference/zip-loom`
 * @param names those of all chapters: links to others lead nowhere in the site
 */
export function readChapter(name, text, names) {
  const headings = [];
  const idOf = uniqueIds();
  const siteURL = (url) => {
    if (/^[a-z]+:|^#/.test(url)) return url;
    const [path, part] = url.split('#');
    const target = posix.join(posix.dirname(name), path);
    if (target.startsWith('screenshots/')) return `/${target}`;
    const chapter = target.replace(/\.md$/, '').replace('reference/README', 'reference/zip-loom');
    return names.includes(chapter) ? `/${chapter}${part === undefined ? '' : `#${part}`}` : undefined;
  };
  const marked = new Marked({
    renderer: {
      heading({ tokens, depth, text: source }) {
        const html = this.parser.parseInline(tokens);
        const id = idOf(source);
        // What can be called in several ways is named once.
        if (depth === 2 && headings.at(-1)?.html !== html) headings.push({ id, html });
        return `<h${depth} id="${id}">${html}</h${depth}>\n`;
      },
      link({ href, tokens }) {
        const html = this.parser.parseInline(tokens);
        const url = siteURL(href);
        return url === undefined ? html : `<a href="${url}">${html}</a>`;
      },
      image({ href, text: alt }) {
        return `<img src="${siteURL(href)}" alt="${alt.replaceAll('"', '&quot;')}" loading="lazy">`;
      },
      table(token) {
        const row = (cells, tag) =>
          `<tr>${cells.map((cell) => `<${tag}>${this.parser.parseInline(cell.tokens)}</${tag}>`).join('')}</tr>\n`;
        const head = token.header.some((cell) => cell.text !== '') ? `<thead>${row(token.header, 'th')}</thead>\n` : '';
        return `<div class="scroll" tabindex="0" role="group" aria-label="Table"><table>\n${head}<tbody>\n${token.rows.map((cells) => row(cells, 'td')).join('')}</tbody></table></div>\n`;
      },
    },
  });
  const html = marked.parse(text.replace(/^<!-- (?:end of )?options\b.*? -->\n/gm, ''));
  const title = /^# (.*)$/m.exec(text)[1].replaceAll('`', '');
  return { name, title, html, headings, sections: sectionsOf(name, title, text) };
}

/** A second heading of the same words has a number, as hosts of code count them. */
function uniqueIds() {
  const seen = new Map();
  return (text) => {
    const id = slug(text);
    const count = seen.get(id) ?? 0;
    seen.set(id, count + 1);
    return count === 0 ? id : `${id}-${count}`;
  };
}

function slug(text) {
  return text
    .toLowerCase()
    .replaceAll('`', '')
    .replace(/<[^>]*>|&[a-z#0-9]+;/g, '')
    .replace(/[^\p{L}\p{N}\s_-]/gu, '')
    .trim()
    .replace(/\s/g, '-');
}

function sectionsOf(name, title, text) {
  const idOf = uniqueIds();
  return text.split(/^(?=##? )/m).map((section) => {
    const [first = '', ...rest] = section.split('\n');
    const heading = first.replace(/^#+ /, '').replaceAll('`', '');
    const words = rest
      .join(' ')
      .replace(/```[\s\S]*?```|<!--.*?-->|[`*|\]()[_#]/g, ' ')
      .replace(/\s+/g, ' ')
      .trim();
    const url = first.startsWith('## ') ? `/${name}#${idOf(heading)}` : `/${name}`;
    return { url, title, heading, words: words.slice(0, 1500) };
  });
}
