/** An answer as the library makes it, before a server sends it. */

export interface Reply {
  readonly status: number;
  readonly headers: ReplyHeaders;
  /** Missing where the answer has no content. */
  readonly body: string | TextSource | undefined;
}

/** Text that comes while it is sent. */
export interface TextSource {
  /** The next piece; `undefined` at the end. Asked for one at a time. Whoever asks must not keep what was sent. */
  next(): Promise<string | undefined>;
  /** Nobody reads on. */
  cancel(): void;
}

/** Headers in the order in which they are sent; names are in lower case. */
export class ReplyHeaders {
  /** Name, value, name, value. Only `set-cookie` may be there more than once. */
  readonly list: string[] = [];

  /**
   * Headers that a handler gives.
   * @throws {TypeError} for what no header can be
   */
  static of(given: HeadersInit | undefined): ReplyHeaders {
    const headers = new ReplyHeaders();
    // The standard’s own class checks names and values.
    if (given !== undefined) for (const [name, value] of new Headers(given)) headers.list.push(name, value);
    return headers;
  }

  get(name: string): string | undefined {
    const at = this.indexOf(name);
    return at === -1 ? undefined : this.list[at + 1];
  }

  has(name: string): boolean {
    return this.indexOf(name) !== -1;
  }

  set(name: string, value: string): void {
    const at = this.indexOf(name);
    if (at === -1) this.list.push(name, value);
    else this.list[at + 1] = value;
  }

  /** One more value of a header that is a list (RFC 9110 §5.3), or one more cookie (RFC 6265 §3). */
  append(name: string, value: string): void {
    const at = name === 'set-cookie' ? -1 : this.indexOf(name);
    if (at === -1) this.list.push(name, value);
    else this.list[at + 1] += `, ${value}`;
  }

  delete(name: string): void {
    const at = this.indexOf(name);
    if (at !== -1) this.list.splice(at, 2);
  }

  /** As pairs, for what takes those. */
  entries(): Array<[name: string, value: string]> {
    const pairs: Array<[string, string]> = [];
    for (let at = 0; at < this.list.length; at += 2) pairs.push([this.list[at]!, this.list[at + 1]!]);
    return pairs;
  }

  private indexOf(name: string): number {
    for (let at = 0; at < this.list.length; at += 2) if (this.list[at] === name) return at;
    return -1;
  }
}
