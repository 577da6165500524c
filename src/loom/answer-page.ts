/** A page for a request: whole, or what of it the browser does not have. */
import { isSafeMethod, randomText, readCookie } from '../forms/index.ts';
import { type LoomContext, Recorder, regionText } from '../runtime/index.ts';
import { type Answer, type Asking, answerOnly, answerParts, clientCookie, pageList } from '../updates/index.ts';
import type { Renderer } from './renderer.ts';
import type { Visit } from './security.ts';

/** What a page is made for. */
export interface PageRequest {
  readonly request: Request;
  readonly context: LoomContext;
  readonly visit: Visit;
  /** What the client says, if one asks. */
  readonly asking: Asking | undefined;
  /** Keeps regions apart while the page is written; the exchange marks those that show messages. */
  recorder: Recorder | undefined;
}

/** The body of an answer, and what goes with it. */
export interface RenderedAnswer {
  body: string;
  headers: Array<[name: string, value: string]>;
  /** Whether it is less than the page, so that nobody may keep it. */
  isPartial: boolean;
  showsFlash: boolean;
}

/** Renders a page for a request. Throws as the renderer does. */
export function renderAnswer(
  renderer: Renderer,
  name: string,
  data: object,
  to: PageRequest,
  status: number,
): RenderedAnswer {
  const facts = renderer.about(name, to.context);
  const { asking, visit, request } = to;
  const isSafe = isSafeMethod(request.method);
  const hasClient = asking !== undefined || readCookie(request, clientCookie) !== undefined;
  // Digests cost a little, and only a client asks for them.
  to.recorder = facts.hasRegions && hasClient ? new Recorder(asking?.only) : undefined;
  const mark = facts.hasRegions ? randomText(6) : undefined;
  const text = renderer.answer(name, data, to.context, { security: visit, mark, recorder: to.recorder });
  const { recorder } = to;
  // A page without regions is never part of another.
  let answer: Answer = { kind: asking && isSafe ? 'none' : 'page' };
  if (asking && recorder && mark) {
    const page = { name: facts.name, recorder, mark, token: visit.tokenInUse() };
    answer = asking.only ? answerOnly(page, asking.only) : answerParts(page, asking, isSafe, status >= 400);
  }
  const said: RenderedAnswer['headers'] = asking ? [['loom-answer', answer.kind]] : [];
  switch (answer.kind) {
    case 'none':
      return { body: '', headers: [...said, ['cache-control', 'no-store']], isPartial: true, showsFlash: false };
    case 'parts':
      return {
        body: answer.body,
        headers: [...said, ['cache-control', 'no-store']],
        isPartial: true,
        showsFlash: answer.showsFlash,
      };
    case 'page': {
      const whole = recorder ? regionText(recorder.page, () => false) : text;
      const body = mark ? withList(whole, pageList(facts.name, mark, recorder)) : whole;
      return { body, headers: said, isPartial: false, showsFlash: facts.showsFlash };
    }
  }
}

/** The list stands at the end of `<body>`, where there is one. */
function withList(page: string, list: string): string {
  const end = page.lastIndexOf('</body>');
  return end === -1 ? `${page}${list}\n` : `${page.slice(0, end)}${list}\n${page.slice(end)}`;
}
