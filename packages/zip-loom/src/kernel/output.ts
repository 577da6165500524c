/** What a compiled template writes to, and what it knows of the request while it writes. */
import type { Diagnostic, RenderError } from '../diagnostics/index.ts';
import type { Bindable } from './bindable.ts';
import { FormRegistry, type FormSecurity, type OpenForm } from './open-forms.ts';
import type { Recorder } from './recorder.ts';
import { newSegment, type Segment } from './segments.ts';

/** Helpers by name, as templates see them. */
export type Helpers = Readonly<Record<string, unknown>>;

/**
 * Makes the helpers that come with the library, for readers of one locale and time zone.
 * @param files URLs of the project’s files by path; `undefined` where it has none
 * @param onFault told of what a helper cannot print, and of a file that is not there
 * @param base where the site is mounted
 */
export type MakeHelpers = (
  place: { locale: string; timeZone: string },
  files: ReadonlyMap<string, string> | undefined,
  onFault: (error: RenderError) => void,
  base: string,
) => Helpers;

/** What belongs to the request rather than to the page. Augment it with the fields of your own `context` function. */
export interface LoomContext {
  /**
   * BCP 47, such as `en-GB`: how dates, numbers and lists are written. Templates always have one: where your function gives none, it is
   * the best of the option `locales` for the browser, else the option `locale`.
   */
  locale?: string;
  /** IANA, such as `Europe/London`. Templates always have one. */
  timeZone?: string;
  /** The name of the page, such as `berths/list`; the library sets it. */
  page?: string;
  /** The URL of the page. */
  url?: URL;
  /** The token for scripts that send requests of their own, in the header `Loom-Token`. */
  token?: string;
  /** Messages that wait to be shown. Reading it marks the region at hand as one that shows messages. */
  flash?: ReadonlyArray<{
    id: string;
    text: string;
    role: 'status' | 'alert';
    action?: { label: string; url: string; method: string };
  }>;
  /** Given to every script and style sheet of the page, for a Content-Security-Policy. */
  nonce?: string;
}

/** Fills one slot. `values` are what the slot gives; `base` prints what this fill replaces. */
export type Fill = (values?: Record<string, unknown>, base?: () => void) => void;

/** The fills of a call by slot name; a slot that is not filled is missing or `undefined`. */
export type Fills = Record<string, Fill | undefined>;

/** A compiled template. */
export type Render = (out: Output, values: Record<string, unknown>, fills: Fills, layout?: Render) => void;

/**
 * `at-once`: the page cannot wait, and whatever would have to be waited for is an error. `late`: content that has something to take its
 * place meanwhile may come at the end of the page; `wayBack` is the page in source order, for browsers that turn out to run no scripts.
 */
type Sending = { kind: 'at-once' } | { kind: 'in-place' } | { kind: 'late'; wayBack: string | undefined };

/** What an output needs to know before the first template runs. */
export interface OutputSettings {
  context: LoomContext;
  helpers: Helpers;
  /** URL schemes that may be in a page, in lower case without colon. */
  schemes: ReadonlySet<string>;
  /** How deep templates may call themselves. */
  maximumDepth: number;
  note(note: Diagnostic): void;
  /** In development: markup that says what a form has to show and its page does not. */
  formNotes?: ((form: Bindable) => string) | undefined;
  /** In development: looks at a URL that begins with a value. */
  noteURL?: ((url: string) => void) | undefined;
  /** A mistake in a value: in development it throws the error, else it is logged with its place and the page goes on. */
  fault(error: RenderError): void;
  /** For forms that post; missing without a request. */
  security?: FormSecurity | undefined;
  /** For answers to the client, and for digests. */
  recorder?: Recorder | undefined;
  /** Proves that a region is the server’s: unknown to visitors. Missing without a request. */
  mark?: string | undefined;
  /** Where content that waits goes. Default: in its place. */
  sending?: Sending;
  /** Milliseconds after which a value that has not come is an error; missing for no limit. */
  timeout?: number | undefined;
  /** Markup for the end of `<head>`. */
  atHeadEnd?: string | undefined;
  /** In development a mistake in data is an error, else a notice. */
  development?: boolean;
  /** Whether the page tells which template made which part of it. */
  isInspected?: boolean;
}

/** The page as far as it is written. Compiled templates append to `s`. */
export class Output {
  s = '';
  /** True if attributes that were just handed on make the client send something. */
  sends = false;
  depth = 0;
  /** Where text is taken to. */
  segment: Segment;
  /** Code units that were taken so far. */
  taken = 0;
  /** True if a region with a channel was written; known in development. */
  usesChannels = false;
  /** Nobody reads the rest. */
  isStopped = false;
  /** Form elements that are being written, the innermost last. */
  forms: OpenForm[] = [];
  /** What is known of all forms of the page. */
  readonly registry: FormRegistry;
  /** Keeps regions apart while they are written; missing where nobody asks for them. */
  readonly recorder: Recorder | undefined;
  private regionNames: Set<string> | undefined;
  readonly context: LoomContext;
  readonly helpers: Helpers;
  readonly settings: OutputSettings;

  constructor(settings: OutputSettings) {
    this.settings = settings;
    this.registry = new FormRegistry(settings.security);
    this.context = settings.context;
    this.helpers = settings.helpers;
    this.recorder = settings.recorder;
    this.segment = settings.recorder?.page ?? newSegment(false);
  }

  /** Names of regions so far. */
  get regions(): Set<string> {
    this.regionNames ??= new Set();
    return this.regionNames;
  }

  /** Takes what has been written since the last call into the segment at hand. */
  take(): void {
    if (this.s === '') return;
    this.segment.digest?.add(this.s);
    this.segment.pieces.push(this.s);
    this.taken += this.s.length;
    this.s = '';
  }
}

/** Prints something that means nothing for what the page shows, as a token. */
export function printUncounted(out: Output, text: string): void {
  const { recorder } = out;
  if (!recorder) {
    out.s += text;
    return;
  }
  out.take();
  out.segment.pieces.push(text);
  out.taken += text.length;
}

/** The fills of a call that fills nothing. */
export const noFills: Fills = Object.freeze({});

/** A layout that is none: only the content. */
export const bare: Render = (_out, _values, fills) => fills['default']?.();
