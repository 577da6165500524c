/** Reads an answer of changes while it comes. */
import { endAttribute, mergeIntoAttribute, pageAttribute, wholePageAttribute } from '../../protocol/index.ts';
import type { Reply } from '../requests.ts';
import type { Tools } from '../tools.ts';

export interface Following {
  /** Milliseconds without a sign of life after which the answer is late. */
  limit: number;
  /** Whether a late answer is given up. */
  isSafe: boolean;
  /** Puts what has arrived whole into the page. */
  apply(arrived: Document): void;
  /** Told when nothing has come for so long, where the answer is not given up. */
  onLate(): void;
}

/** What stays in the answer until its end: a page, in parts, and what says how it ended. */
const ofEnd = [mergeIntoAttribute, pageAttribute, endAttribute, wholePageAttribute];

const topTemplates = 'head>template,body>template';

/** @returns what is to be shown at the end, or what went wrong */
export async function followChanges(
  { asWithScripts, markupFor }: Tools,
  { response, url, status, isGET, stop }: Extract<Reply, { kind: 'changes' }>,
  { limit, isSafe, apply, onLate }: Following,
): Promise<Reply> {
  const answer = document.implementation.createHTMLDocument('');
  const reader = response.body!.getReader();
  const decoder = new TextDecoder();
  let timer: ReturnType<typeof setTimeout> | undefined;
  let isLate = false;
  const late = () => {
    if (isSafe) stop();
    else if (!isLate) onLate();
    isLate = true;
  };
  try {
    for (;;) {
      timer = setTimeout(late, limit);
      const { done, value } = await reader.read();
      clearTimeout(timer);
      // A parser that is given text piece by piece, of a document in which nothing loads or runs.
      answer.write(markupFor(decoder.decode(value, { stream: !done })));
      const arrived = takeWhole(answer, done);
      if (arrived) apply(asWithScripts(arrived));
      if (done) break;
    }
  } catch {
    return { kind: 'failure', code: isSafe && isLate ? 'late' : 'cut' };
  } finally {
    clearTimeout(timer);
  }
  answer.close();
  const found = (name: string) => answer.querySelector<HTMLTemplateElement>(`template[${name}]`);
  const end = found(endAttribute);
  if (end?.getAttribute(endAttribute) === 'failed')
    return { kind: 'failure', code: 'broken', details: end.content.textContent };
  if (!end) return { kind: 'failure', code: 'cut' };
  const page = found(wholePageAttribute)?.content.textContent;
  if (page) return { kind: 'page', text: page, url, status, isGET };
  return { kind: 'parts', text: answer.documentElement.outerHTML, url, status, isGET };
}

/** Takes what is whole out of the answer: what has something after it, and at the end everything. */
function takeWhole(answer: Document, isEnd: boolean): Document | undefined {
  const whole = [...answer.querySelectorAll(topTemplates)].filter(
    (one) => (one.nextSibling || isEnd) && !ofEnd.some((name) => one.hasAttribute(name)),
  );
  if (whole.length === 0) return undefined;
  const arrived = document.implementation.createHTMLDocument('');
  arrived.body.append(...whole);
  return arrived;
}
