/**
 * Form elements that post: where their submissions go, and so whether they may hold the session’s token. That is known only when
 * the whole page is: a button further down may send a form elsewhere, and so may a `<base>`. So the token is decided when the page
 * is read.
 */
import type { Bindable } from './bindable.ts';
import { asInMarkup, isPlainPath, readURL } from './url.ts';

/** What the exchange adds to forms that post to this site. Missing where a page is rendered without a request. */
export interface FormSecurity {
  /** The origin of this site, as browsers see it. */
  readonly origin: string;
  /** The URL of the page, as browsers see it. */
  readonly url: URL;
  token(): string;
  /** The sealed list of the fields that a form showed. */
  sealNames(form: string, shown: ShownFields): string;
  /** What a form takes along, sealed. */
  sealState(form: string, text: string): string;
}

/** The fields that a form showed on its page: nothing else is read of it. */
export interface ShownFields {
  /** Names with indices left out: `crew[].name`. */
  readonly names: ReadonlySet<string>;
  /** Rows of lists, by the name of the list with its indices: `boats[0].crew`. A list that is missing here is not limited. */
  readonly rows: ReadonlyMap<string, RowsShown>;
  /** The name of the step that was shown, of a form in several. */
  readonly step?: string;
}

/** The rows of a list that a form showed. */
export interface RowsShown {
  /** How many; `undefined` if the page names items without their index. */
  readonly count: number | undefined;
  /** True if the page has a button that adds one. */
  readonly canAdd: boolean;
  /** The item of the model that each row stands for, as `0,2,+`; '' if each is at its own place. */
  readonly origins: string;
}

/** Fields of a form while its page is written. */
export interface FieldsBeingShown {
  readonly names: Set<string>;
  /** How many rows each list has so far; `Infinity` for names without an index. */
  readonly counts: Map<string, number>;
  /** The origins of the rows of each list whose items the page went through. */
  readonly origins: Map<string, string>;
}

/** Where the submission of a form may go. One for each form element, whoever writes parts of it. */
export interface FormTarget {
  /** URLs as written: the form’s own and those of its buttons; `undefined` for that of the page. */
  urls: Array<string | undefined>;
  /** Whether a button sends it as a query, which would show the token in the href bar. */
  isShown: boolean;
  /** Whether files are sent with it, so that its token comes first. */
  holdsFiles: boolean;
  /** Whether the token was handed to whoever reads the page. */
  isSent: boolean;
  /** Whether it has buttons that change it instead of sending it off. */
  hasEdits: boolean;
  /** What the first button sends that sends it off: attributes, as markup. */
  firstSubmitter: string | undefined;
}

/** A form element that is being written. */
export interface OpenForm {
  posts: boolean;
  target: FormTarget;
  /** The fields that each form in it showed. */
  shown: Map<Bindable, FieldsBeingShown>;
  /** Hidden companions that are printed already. */
  companions: Set<string>;
  /** Whether some of its content is written later. */
  isPartial?: boolean;
  /** The form itself, for content in it that is written later. */
  around?: OpenForm;
}

/** What is known of the forms of a page while it is written. */
export class FormRegistry {
  /** The first `<base>` of the document with a URL, as written (HTML §4.2.3). */
  base: string | undefined;
  private readonly security: FormSecurity | undefined;
  /** Targets by the `id` of the form. A button may name one before the form is written. */
  private byId: Map<string, FormTarget> | undefined;
  private readonly sent: FormTarget[] = [];
  /** Ids of controls, in development. */
  readonly ids = new Set<string>();
  /** Lists of each form that have a button to add a row, wherever on the page it is. */
  private readonly additions = new Map<Bindable, Set<string>>();

  constructor(security: FormSecurity | undefined) {
    this.security = security;
  }

  /** The target of a form: where it has an id, the one that a button may have named already. */
  targetOf(id: string | undefined): FormTarget {
    const target = (id === undefined ? undefined : this.byId?.get(id)) ?? {
      urls: [],
      isShown: false,
      holdsFiles: false,
      isSent: false,
      hasEdits: false,
      firstSubmitter: undefined,
    };
    if (id !== undefined) {
      this.byId ??= new Map();
      this.byId.set(id, target);
    }
    return target;
  }

  /** Notes a button that adds a row to a list. */
  noteAddition(form: Bindable, list: string): void {
    const lists = this.additions.get(form) ?? new Set();
    this.additions.set(form, lists.add(list));
  }

  /** The fields that a form showed, as far as the page is written. */
  shownFields(form: Bindable, { names, counts, origins }: FieldsBeingShown): ShownFields {
    const additions = this.additions.get(form);
    const rows = new Map<string, RowsShown>();
    for (const [list, count] of counts) {
      const canAdd = additions?.has(list) ?? false;
      // Rows that a sender made up are shown again; where the page cannot add any, they do not count.
      const most = canAdd ? undefined : form.mostRows?.(list);
      rows.set(list, {
        count: count === Infinity ? undefined : Math.min(count, most ?? count),
        canAdd,
        origins: origins.get(list) ?? '',
      });
    }
    const step = form.step?.name;
    return step === undefined ? { names, rows } : { names, rows, step };
  }

  /** Whether a form may hold the token, as far as the page is written. */
  mayHoldToken({ isShown, urls }: FormTarget): boolean {
    return !isShown && urls.every((url) => this.leadsHere(url));
  }

  /** The token of a form is on its way to the browser. */
  noteSent(target: FormTarget): void {
    target.isSent = true;
    this.sent.push(target);
  }

  /** Whether a form holds a token already that may not be in it now. */
  isTooLate(): boolean {
    return this.sent.some((target) => !this.mayHoldToken(target));
  }

  /** Whether a URL is this site’s, as browsers read it in this document (HTML §4.10.21.3, URL §4.4). */
  private leadsHere(url: string | undefined): boolean {
    const { base, security } = this;
    if (!security || url === undefined || url === '' || (base === undefined && isPlainPath(url))) return true;
    const from = (base === undefined ? undefined : readURL(base, security.url)) ?? security.url;
    const target = readURL(asInMarkup(url), from);
    if (!target) return false;
    const { protocol, origin } = target;
    // The origin of a “blob:” URL is that of the page that made it.
    return (protocol === 'https:' || protocol === 'http:') && origin === security.origin;
  }
}
