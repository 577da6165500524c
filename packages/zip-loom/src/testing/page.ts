/** A page that came back, with small questions to ask of it. */
import { typeOf, valuesOf } from './controls.ts';
import { attribute, type Document, type Element, hasAttribute, parseDocument, select, shownText } from './document.ts';
import { type FormValues, fill, type SubmitOptions } from './fill.ts';
import type { PageRequest } from './page-request.ts';
import { submission } from './submission.ts';

export type Ask = (request: PageRequest, from: Page) => Promise<Page>;

/** Makes a page of an answer. @param site the origin of the site */
export let newPage: (response: Response, html: string, place: PagePlace) => Page;

interface PagePlace {
  location: URL;
  site: string;
  ask: Ask;
}

/** A page as a test sees it. */
export class Page {
  static {
    newPage = (...given) => new Page(...given);
  }

  /** The status of the answer. */
  readonly status: number;
  /** Where it is after all redirects: path, query and fragment on the site itself, else absolute. */
  readonly url: string;
  /** The headers of the answer. */
  readonly headers: Headers;
  /** As it was sent. */
  readonly html: string;
  private readonly document: Document;
  private readonly location: URL;
  private readonly ask: Ask;

  private constructor(response: Response, html: string, { location, site, ask }: PagePlace) {
    this.status = response.status;
    this.headers = response.headers;
    this.html = html;
    this.location = location;
    this.url = location.origin === site ? location.href.slice(site.length) : location.href;
    this.document = parseDocument(html);
    this.ask = ask;
  }

  /** The text of `<title>`. */
  get title(): string {
    return this.text('title') ?? '';
  }

  /** The first main heading. */
  get heading(): string | undefined {
    return this.text('h1');
  }

  /** The text of the first element of a CSS selector, whitespace as it is shown; `undefined` where there is none. */
  text(selector: string): string | undefined {
    return this.texts(selector)[0];
  }

  /** The texts of all elements of a CSS selector. */
  texts(selector: string): string[] {
    return select(selector, this.document).map(shownText);
  }

  /** How many elements a CSS selector finds. */
  count(selector: string): number {
    return select(selector, this.document).length;
  }

  /** An attribute of the first element of a CSS selector. */
  attribute(selector: string, name: string): string | undefined {
    const [found] = select(selector, this.document);
    return found && attribute(found, name);
  }

  /** Whether a text is shown somewhere, however its whitespace is written. */
  has(text: string): boolean {
    const [body] = select('body', this.document);
    return body !== undefined && shownText(body).includes(text.replace(/\s+/g, ' ').trim());
  }

  /** What a field shows: its text, the values that are chosen of a list or a group; `undefined` where there is no such field. */
  value(name: string): string | string[] | undefined {
    const fields = this.fields(name);
    const [first] = fields;
    if (!first) return undefined;
    const values = fields.flatMap(valuesOf);
    const isMany = fields.length > 1 ? typeOf(first) !== 'radio' : hasAttribute(first, 'multiple');
    return isMany ? values : values[0];
  }

  /** The messages at a field: what it is described by, where it is marked as wrong. */
  errors(name: string): string[] {
    return this.fields(name)
      .filter((field) => attribute(field, 'aria-invalid') === 'true')
      .flatMap((field) => (attribute(field, 'aria-describedby') ?? '').split(/\s+/))
      .filter((id) => id !== '' && !id.endsWith('-hint') && !id.endsWith('-files'))
      .flatMap((id) => this.texts(`[id="${id}"]`));
  }

  /** One-time messages, as `flash` gives them. */
  get messages(): string[] {
    return this.texts('.flash-messages [role]');
  }

  /** Fills a form in as its visitor would, and sends it; gives the page that comes of it, after all redirects. */
  async submit(values: FormValues = {}, options: SubmitOptions = {}): Promise<Page> {
    const filled = fill(this.document, values, options);
    return this.ask(submission(filled, this.document, this.base()), this);
  }

  /** Follows a link by its text or its URL. @throws {Error} where there is none */
  async follow(link: string): Promise<Page> {
    const links = select('a[href], area[href]', this.document);
    const found =
      links.find((one) => shownText(one) === link) ??
      links.find((one) => attribute(one, 'aria-label') === link || attribute(one, 'href') === link);
    if (!found)
      throw new Error(
        `There is no link “${link}” on ${this.url}. There is: ${links.map((one) => `“${shownText(one)}”`).join(', ')}.`,
      );
    return this.ask({ url: new URL(attribute(found, 'href')!, this.base()), method: 'GET' }, this);
  }

  private fields(name: string): Element[] {
    const all = select('input, select, textarea', this.document).filter((one) => attribute(one, 'name') === name);
    const shown = all.filter((one) => typeOf(one) !== 'hidden');
    return shown.length > 0 ? shown : all;
  }

  private base(): URL {
    return new URL(this.attribute('base[href]', 'href') ?? '', this.location);
  }
}
