/** What channels have of a loom: its pages say how far they were, and a publication is rendered once for all who read it. */
import type { PairAnswerer } from '../../http/index.ts';
import type { Change } from '../../updates/index.ts';
import type { Logger } from '../create/options.ts';
import type { ChannelState, ChannelWatch } from '../development/channel-watch.ts';
import type { PublicationMaker, PublicationPlace } from '../render/publication.ts';
import type { Renderer } from '../render/renderer.ts';

/** Where a loom keeps its door: copies of a loom have it too, and its users do not see it. */
const channelDoor = Symbol('zip-loom channels');

/** The part of a loom that holds its door. */
export function heldDoor(door: ChannelDoor): object {
  return { [channelDoor]: door };
}

/** The door of a loom. */
export function doorOf(loom: object): ChannelDoor {
  return (loom as { [channelDoor]: ChannelDoor })[channelDoor];
}

/** Where changes of channels come from. */
export interface ChannelSource {
  /** The URL that browsers connect to, from the root of the site. */
  readonly path: string;
  /** How far all channels are, at once. */
  position(): string;
}

export class ChannelDoor {
  /** Answers `(req, res)`; missing where there are no such servers. */
  readonly pair: PairAnswerer | undefined;
  /** In development. */
  readonly watch: ChannelWatch | undefined;
  private readonly renderer: Renderer;
  private readonly publication: PublicationMaker;
  private source: ChannelSource | undefined;

  constructor(renderer: Renderer, publication: PublicationMaker, pair: PairAnswerer | undefined) {
    this.pair = pair;
    this.renderer = renderer;
    this.watch = renderer.tools?.channelWatch(renderer);
    this.publication = publication;
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
    const { source, renderer, watch } = this;
    return source && { url: renderer.mounted(source.path), position: source.position(), watch };
  }

  /**
   * The text of a change for everybody.
   * @throws {TemplateError} for an error in its template, and where that reads what is a visitor’s alone
   */
  render(change: Change, place: PublicationPlace): Promise<string> {
    return this.publication(this.renderer, change, place);
  }
}
