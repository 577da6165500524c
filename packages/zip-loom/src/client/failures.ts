/** What a visitor sees when a request failed: the region’s own element, or a short message. What was typed stays. */
import { onFailureAttribute } from '../protocol/index.ts';
import { announce } from './announcer.ts';
import { send } from './events.ts';
import { type FailureCode, textOf } from './texts.ts';

export interface Failure {
  url: string;
  /** The region’s name. */
  region: string;
  code: Exclude<FailureCode, 'gone'>;
  status?: number | undefined;
  /** What developers may read of it. */
  details?: string | null | undefined;
}

/** Messages by the region that they speak of. No answer knows of them, so none takes them away. */
const messages = new Map<string, Element>();

/** Tells scripts of a failure. */
export function tellFailure(
  target: Element,
  { url, region, code, status }: Pick<Failure, 'url' | 'region' | 'status'> & { code: FailureCode },
): void {
  send(target, 'loomfailure', { url, region, code, status });
}

/** Shows the failure. `again` is offered where asking again does no harm. */
export function showFailure(target: HTMLElement, failure: Failure, again: (() => void) | undefined): void {
  tellFailure(target, failure);
  hideFailure(target, failure.region);
  const own = target.querySelector<HTMLElement>(`[${onFailureAttribute}]`);
  if (own) {
    own.hidden = false;
    announce(own.textContent);
    return;
  }
  const message = document.createElement('p');
  message.className = 'loom-failure';
  message.setAttribute('role', 'status');
  const said = [textOf(failure.code, failure.status), failure.details, textOf('kept'), ''];
  message.textContent = said.filter((one, at) => one || at === 3).join(' ');
  if (again) {
    const button = document.createElement('button');
    button.type = 'button';
    button.textContent = textOf('again');
    button.addEventListener('click', () => {
      hideFailure(target, failure.region);
      again();
    });
    message.append(button);
  }
  messages.set(failure.region, message);
  // Where a paragraph may not be, as among rows, it stands before what it is about.
  const around = [...ancestors(target)].filter((one) => one.matches(noParagraph)).at(-1);
  if (around) around.before(message);
  else target.prepend(message);
}

/** Elements that cannot hold a paragraph, or not as a child of any of their own (HTML §4). */
const noParagraph =
  'table,ul,ol,dl,select,svg,math,p,h1,h2,h3,h4,h5,h6,pre,a,button,label,span,b,i,em,strong,small,input,textarea,img';

function* ancestors(element: Element): Iterable<Element> {
  for (let one: Element | null = element; one && one !== document.body; one = one.parentElement) yield one;
}

/** Takes an earlier failure away. */
export function hideFailure(target: HTMLElement, region: string): void {
  messages.get(region)?.remove();
  messages.delete(region);
  const own = target.querySelector<HTMLElement>(`[${onFailureAttribute}]`);
  if (own) own.hidden = true;
}
