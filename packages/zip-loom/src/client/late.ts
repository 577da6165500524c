/** Late content: what comes at the end of the page is put into the place that was kept for it, as soon as it is there. */
import { lateAttribute, wrappedAttribute } from '../protocol/index.ts';
import { send } from './events.ts';

/** Begins while the page is still coming, if it is, and ends with it. */
export function placeLateContent(): void {
  placeAll();
  if (document.readyState !== 'loading') return;
  const observer = new MutationObserver(placeAll);
  observer.observe(document, { childList: true, subtree: true });
  document.addEventListener(
    'DOMContentLoaded',
    () => {
      placeAll();
      observer.disconnect();
    },
    { once: true },
  );
}

function placeAll(): void {
  for (const template of document.querySelectorAll<HTMLTemplateElement>(`template[${lateAttribute}]`)) {
    // With something after it, or at the end of the page, it is whole.
    if (template.nextSibling || document.readyState !== 'loading') place(template);
  }
}

function place(template: HTMLTemplateElement): void {
  const id = template.getAttribute(lateAttribute) ?? '';
  template.remove();
  const [start, end] = [comment(`late ${id}`), comment(`/late ${id}`)];
  // The place may be gone: what was around it has been replaced meanwhile.
  if (!start || !end) return;
  const { content } = template;
  const nodes = template.hasAttribute(wrappedAttribute)
    ? (content.firstElementChild?.childNodes ?? [])
    : content.childNodes;
  // A parser may have given the two comments different parents, so that only a range tells what is between them.
  const range = new Range();
  range.setStartAfter(start);
  range.setEndBefore(end);
  range.deleteContents();
  const parent = end.parentNode;
  end.before(...nodes);
  start.remove();
  end.remove();
  if (parent) send(parent, 'loommerged', { region: '' });
}

function comment(text: string): Comment | undefined {
  const walker = document.createTreeWalker(document, NodeFilter.SHOW_COMMENT);
  for (let node = walker.nextNode(); node; node = walker.nextNode())
    if ((node as Comment).data === text) return node as Comment;
  return undefined;
}
