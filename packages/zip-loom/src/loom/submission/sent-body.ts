/** The body of a request, read once for all who ask: as text, or part by part where it holds files. */
import type { Diagnostic } from '../../diagnostics/index.ts';
import {
  type Body,
  type Entries,
  entriesOf,
  type FileKeeper,
  type FileRule,
  Intake,
  type Limits,
  readBody,
  TakenFiles,
  valuesOf,
} from '../../forms/index.ts';
import type { IncomingRequest } from '../../http/index.ts';
import { tokenField } from '../../protocol/index.ts';
import type { Visitor } from '../../security/index.ts';
import { answerDiagnostic } from '../respond/answer-diagnostics.ts';

/** What is told of a request where its visitor need not know. */
export interface Reports {
  log(diagnostic: Diagnostic, details: Readonly<Record<string, unknown>>): void;
  /** A store of uploads that does not work. */
  storeFailed(error: unknown): void;
}

/** What a reader takes of a body. */
export interface Wanted {
  limits: Limits;
  /** What a field takes; `undefined` for one that takes no file. */
  ruleOf(name: string): FileRule | undefined;
}

export class SentBody {
  /** The files that came with it. */
  readonly hand: TakenFiles | undefined;
  private readonly request: IncomingRequest;
  private readonly visitor: Visitor;
  private readonly keeper: FileKeeper | undefined;
  private readonly reports: Reports;
  /** The body as text, and how much of it was to be read. */
  private text: { read: Promise<Body>; most: number } | undefined;
  /** What is in it, by the limits of the form that asks. */
  private readonly entries = new Map<Limits, Promise<Entries>>();
  private ownIntake: Intake | undefined;

  /** @param keeper missing where no files are taken */
  constructor(request: IncomingRequest, visitor: Visitor, keeper: FileKeeper | undefined, reports: Reports) {
    this.request = request;
    this.visitor = visitor;
    this.reports = reports;
    this.keeper = keeper;
    this.hand = keeper && new TakenFiles(keeper, visitor.mark);
  }

  /** @param isProved whether a header has shown that it comes from a page of this site */
  read({ limits, ruleOf }: Wanted, isProved: boolean): Promise<Entries> {
    const intake = this.intake(limits, isProved);
    if (intake) return intake instanceof Intake ? intake.readAll(ruleOf) : Promise.resolve(intake);
    let entries = this.entries.get(limits);
    if (!entries) {
      entries = this.textWithin(limits).then((body) => entriesOf(body, limits));
      this.entries.set(limits, entries);
    }
    return entries;
  }

  /** Whether there is a token in it that is this visitor’s. The body stays for whoever reads it afterwards, by whatever means. */
  async holdsToken(limits: Limits): Promise<boolean> {
    const copy = this.ownIntake || this.text ? undefined : this.request.copy();
    if (!copy) return this.findsToken(limits);
    const body = new SentBody(copy, this.visitor, this.keeper, this.reports);
    try {
      return await body.findsToken(limits);
    } finally {
      await body.end();
      // What was not read of a copy is not held for it.
      void copy.letGo();
    }
  }

  /** Reads no further than the token, where files follow. */
  private async findsToken(limits: Limits): Promise<boolean> {
    const intake = this.intake(limits, false);
    if (intake) return intake instanceof Intake && intake.readToken();
    const body = await this.read({ limits, ruleOf: () => undefined }, false);
    const sent = body.ok ? valuesOf(body, tokenField)[0] : undefined;
    return sent !== undefined && this.visitor.pageOfToken(sent) !== undefined;
  }

  /** Lets go of files that no handler has taken. */
  async end(): Promise<void> {
    this.ownIntake?.end();
    await this.hand?.end();
  }

  /** For a body of several parts, or why it cannot be read; `undefined` for any other. */
  private intake(limits: Limits, isProved: boolean): Intake | Entries | undefined {
    if (this.ownIntake) return this.ownIntake;
    const { hand, request, visitor, reports } = this;
    const type = request.header('content-type') ?? '';
    if (!hand || !/^\s*multipart\/form-data\s*(?:;|$)/i.test(type) || request.header('content-encoding'))
      return undefined;
    const bytes = request.readBytes();
    if (!bytes) {
      reports.log(answerDiagnostic('unreadable-body'), {});
      return { ok: false, status: 400, reason: 'body-used' };
    }
    this.ownIntake = new Intake(bytes, type, {
      hand,
      limits,
      isProved,
      proves: (token) => visitor.pageOfToken(token) !== undefined,
      report: (error) => reports.storeFailed(error),
    });
    return this.ownIntake;
  }

  /** The text of the body: what was read before, unless that was too much for whoever asked and is not for this one. */
  private async textWithin(limits: Limits): Promise<Body> {
    const { text } = this;
    if (!text) return this.readText(limits);
    const known = await text.read;
    if (known.ok || known.reason !== 'body-too-large' || limits.body <= text.most) return known;
    const again = await this.readText(limits);
    // Where it came without its length, most of it has gone by.
    return !again.ok && again.reason === 'body-used' ? known : again;
  }

  private readText(limits: Limits): Promise<Body> {
    const isFirst = this.text === undefined;
    const read = readBody(this.request, limits);
    this.text = { read, most: limits.body };
    return read.then((body) => {
      if (isFirst && !body.ok && body.reason === 'body-used') this.reports.log(answerDiagnostic('unreadable-body'), {});
      return body;
    });
  }
}
