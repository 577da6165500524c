/** What channels have of a loom: its pages say how far they were, and a publication is rendered once for all who read it. */
import { LoomError } from '../diagnostics/index.ts';
import { randomText } from '../security/index.ts';
import { type Change, changeMarkup, headMarkup } from '../updates/index.ts';
import { loomDiagnostic } from './diagnostics.ts';
import type { Logger } from './options.ts';
import { publicContext } from './public-context.ts';
import type { Renderer } from './renderer.ts';

/** How a loom keeps its door. */
export const channelDoor: unique symbol = Symbol('zip-loom channels');

/** Where changes of channels come from. */
export interface ChannelSource {
  /** The URL that browsers connect to, from the root of the site. */
  readonly path: string;
  /** How far all channels are, at once. */
  position(): string;
}

/** What a page says of channels. */
export interface ChannelState {
  url: string;
  position: string;
}

export interface PublicationPlace {
  locale?: string | undefined;
  timeZone?: string | undefined;
}

export class ChannelDoor {
  private readonly renderer: Renderer;
  private source: ChannelSource | undefined;

  constructor(renderer: Renderer) {
    this.renderer = renderer;
  }

  get logger(): Logger {
    return this.renderer.logger;
  }

  /** From now on pages say how far these are. */
  join(source: ChannelSource): void {
    this.source = source;
  }

  /** How far channels are now: asked for before a handler reads its data. */
  state(): ChannelState | undefined {
    const { source, renderer } = this;
    return source && { url: renderer.mounted(source.path), position: source.position() };
  }

  /**
   * The text of a change for everybody.
   * @throws {TemplateError} for an error in its template, and where that reads what is a visitor’s alone
   */
  async render(change: Change, { locale, timeZone }: PublicationPlace): Promise<string> {
    const { action } = change;
    const mark = randomText(6);
    if (action.kind !== 'put') return changeMarkup(change, '', mark);
    const { content } = action;
    if (content.kind === 'markup') return changeMarkup(change, content.html, mark);
    const { places } = this.renderer;
    const { facts, name } = this.renderer.findPartial(content.name);
    if (facts.usesToken)
      throw new LoomError(loomDiagnostic('refused-publication', { name, what: 'holds a form that posts' }));
    const context = publicContext(places.localeOf(locale), places.timeZoneOf(timeZone));
    const settings = { mark, sending: { kind: 'in-place' } } as const;
    const rendering = this.renderer.partial(content.name, content.data, context, settings);
    if (rendering.isWaiting) await rendering.whole();
    return headMarkup(facts.placed) + changeMarkup(change, rendering.text(), mark);
  }
}
