/** The changes of a handler, taken one by one at the pace of whoever reads. */
import { describeValue, LoomError } from '../../diagnostics/index.ts';
import { Change, Content, updateDiagnostic } from '../../updates/index.ts';
import { type ChangesSource, PageToShow } from './changes.ts';

type Iterating = Iterator<unknown> | AsyncIterator<unknown>;

export class ChangeSteps {
  private readonly leaving = new AbortController();
  private readonly iterator: Iterating;

  /** @throws {LoomError} for what gives no changes, and what the function throws that makes them */
  constructor(source: ChangesSource) {
    const given: unknown = typeof source === 'function' ? source(this.leaving.signal) : source;
    this.iterator = iteratorOf(given);
  }

  /** Whether nobody reads on. */
  get isLeft(): boolean {
    return this.leaving.signal.aborted;
  }

  /**
   * The next change or page; `undefined` at the end.
   * @throws {LoomError} for what is neither
   */
  async next(): Promise<Change | PageToShow | undefined> {
    const { done, value } = await this.iterator.next();
    if (done || this.isLeft) return undefined;
    if (value instanceof Change || value instanceof PageToShow) return value;
    throw notAChange(value);
  }

  /** Nobody reads on: whoever makes the changes is told, and may end. */
  leave(): void {
    if (this.isLeft) return;
    this.leaving.abort();
    this.end();
  }

  /** Nothing more is taken. */
  end(): void {
    // What fails when nobody listens any more concerns nobody.
    Promise.resolve(this.iterator.return?.()).catch(() => {});
  }
}

function iteratorOf(given: unknown): Iterating {
  const source = (given ?? {}) as Partial<AsyncIterable<unknown> & Iterable<unknown>>;
  if (typeof given === 'string' || given instanceof Change) throw notAChange(given);
  const iterator = source[Symbol.asyncIterator]?.() ?? source[Symbol.iterator]?.();
  if (!iterator) throw notAChange(given);
  return iterator;
}

function notAChange(value: unknown): LoomError {
  const given =
    value instanceof Content
      ? 'put(…) alone'
      : value instanceof Change
        ? 'one change without a list'
        : describeValue(value);
  return new LoomError(updateDiagnostic('invalid-change', { given }));
}
