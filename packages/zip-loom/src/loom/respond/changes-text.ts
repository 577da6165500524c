/** Changes → the text of an answer, as they come: each a whole element at the top, and at the end one that says how it ended. */
import type { TextSource } from '../../http/index.ts';
import { escapeText, nextTask, Recorder } from '../../kernel/index.ts';
import { endAttribute, headers, pageRegion, wholePageAttribute } from '../../protocol/index.ts';
import { actionOf, type Change, changeMarkup, headMarkup, tokenMarkup } from '../../updates/index.ts';
import type { Renderer } from '../render/renderer.ts';
import { type PageRequest, renderAnswer } from './answer-page.ts';
import type { ChangeSteps } from './change-steps.ts';
import { PageToShow } from './changes.ts';

/** Milliseconds after which something is sent although nothing has changed, so that nobody on the way takes the answer for dead. */
const heartbeat = 10_000;

export interface ChangesEnd {
  /** All was sent. */
  done(): void;
  /** Called once for an error; gives what developers may read of it. */
  failed(error: unknown): string;
}

export class ChangesText implements TextSource {
  private readonly steps: ChangeSteps;
  private readonly renderer: Renderer;
  private readonly to: PageRequest;
  private readonly mark: string;
  private readonly end: ChangesEnd;
  /** Style sheets and scripts that were sent. */
  private readonly placed = new Set<string>();
  /** What is on its way. */
  private coming: Promise<string> | undefined;
  private isOver = false;

  /** @param mark proves regions to be the server’s */
  constructor(steps: ChangeSteps, renderer: Renderer, to: PageRequest, mark: string, end: ChangesEnd) {
    this.steps = steps;
    this.renderer = renderer;
    this.to = to;
    this.mark = mark;
    this.end = end;
  }

  /**
   * Begins, and lets through what fails at once, so that it becomes an ordinary error.
   * @throws what the first step throws before anything has to be waited for
   */
  async begin(): Promise<void> {
    const first = this.step();
    this.coming = first.catch((error: unknown) => this.fail(error));
    await Promise.race([first, nextTask()]);
  }

  async next(): Promise<string | undefined> {
    if (this.steps.isLeft || (this.isOver && !this.coming)) return undefined;
    this.coming ??= this.step().catch((error: unknown) => this.fail(error));
    let timer: ReturnType<typeof setTimeout> | undefined;
    const beat = new Promise<undefined>((resolve) => {
      timer = setTimeout(resolve, heartbeat, undefined);
    });
    const text = await Promise.race([this.coming, beat]);
    clearTimeout(timer);
    if (this.steps.isLeft) return undefined;
    if (text === undefined) return '\n';
    this.coming = undefined;
    // What is there already must not keep others waiting, however much it is.
    await nextTask();
    return text;
  }

  cancel(): void {
    this.steps.leave();
  }

  private async step(): Promise<string> {
    const step = await this.steps.next();
    if (step === undefined) return this.finish('');
    if (!(step instanceof PageToShow)) return this.change(step);
    this.steps.end();
    return this.finish(await this.page(step));
  }

  private async change(change: Change): Promise<string> {
    const action = actionOf(change);
    if (action.kind !== 'put') return changeMarkup(change, '', this.mark);
    const { content } = action;
    if (content.kind === 'markup') return changeMarkup(change, content.html, this.mark);
    const { renderer, to, mark } = this;
    const settings = { security: to.visitor, mark, sending: { kind: 'in-place' } } as const;
    const rendering = renderer.partial(content.name, content.data, to.context, settings);
    if (rendering.isWaiting) await rendering.whole();
    const fresh = renderer.findPartial(content.name).facts.placed.filter((one) => !this.placed.has(one));
    for (const one of fresh) this.placed.add(one);
    return headMarkup(fresh) + changeMarkup(change, rendering.text(), mark);
  }

  /** The page at the end: as parts of the page that is shown, or whole. What changes have done to the page is not known here. */
  private async page({ name, data }: PageToShow): Promise<string> {
    const { renderer, to } = this;
    const asked = {
      ...to.asked!,
      region: pageRegion,
      only: undefined,
      digests: new Map<string, string>(),
      folded: new Map(),
    };
    const given = (await to.prepare?.(data)) ?? data;
    const answer = await renderAnswer(
      renderer,
      name,
      given,
      { ...to, asked, record: () => new Recorder() },
      {
        status: 200,
        order: 'source',
        onFailure: () => {},
      },
    );
    // What a client asks for is whole.
    const text = answer.body as string;
    const isParts = answer.headers.some(([header, value]) => header === headers.answer && value === 'parts');
    return isParts ? text : `<template ${wholePageAttribute}>${escapeText(text)}</template>\n`;
  }

  private finish(text: string): string {
    this.isOver = true;
    this.end.done();
    return `${text}${tokenMarkup(this.to.visitor.tokenInUse())}<template ${endAttribute}="done"></template>\n`;
  }

  private fail(error: unknown): string {
    this.isOver = true;
    this.steps.end();
    const details = this.steps.isLeft ? '' : this.end.failed(error);
    return `<template ${endAttribute}="failed">${escapeText(details)}</template>\n`;
  }
}
