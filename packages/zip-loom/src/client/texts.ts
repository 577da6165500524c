/** What the client says to visitors, in the page’s language. */

/** Texts by what they are for. `{status}` stands for the status of an answer. */
export interface Texts {
  /** The server could not be reached. */
  unreachable: string;
  /** The server answered with an error; `{status}` is its number. */
  status: string;
  /** The answer ended in the middle. */
  cut: string;
  /** An error, after the answer had begun. */
  broken: string;
  /** No answer has come for long. */
  late: string;
  /** What was sent is not allowed any more. */
  forbidden: string;
  /** After each of these: what was typed is still there. */
  kept: string;
  /** On the button that asks again. */
  again: string;
  /** On the button that closes a dialog. */
  close: string;
  /** Asked before what was typed in a dialog is lost. */
  discard: string;
}

export type TextName = keyof Texts;

/** Why a request failed. `gone`: the region is not on its page any more. */
export type FailureCode = 'unreachable' | 'status' | 'cut' | 'broken' | 'late' | 'forbidden' | 'gone';

const english: Texts = {
  unreachable: 'The server could not be reached.',
  status: 'The server answered with {status}.',
  cut: 'The answer was cut off.',
  broken: 'The server could not finish this.',
  late: 'The server has not answered.',
  forbidden: 'This is not allowed any more. Perhaps you signed out in another tab.',
  kept: 'Nothing that you typed is lost.',
  again: 'Try again',
  close: 'Close',
  discard: 'Close this without saving what you typed?',
};

const german: Texts = {
  unreachable: 'Der Server ist nicht erreichbar.',
  status: 'Der Server hat mit {status} geantwortet.',
  cut: 'Die Antwort ist abgebrochen.',
  broken: 'Der Server konnte das nicht zu Ende bringen.',
  late: 'Der Server hat nicht geantwortet.',
  forbidden: 'Das ist nicht mehr erlaubt. Vielleicht haben Sie sich in einem anderen Tab abgemeldet.',
  kept: 'Was Sie eingegeben haben, ist noch da.',
  again: 'Noch einmal versuchen',
  close: 'Schließen',
  discard: 'Schließen, ohne zu speichern, was Sie eingegeben haben?',
};

let given: Partial<Texts> = {};

/** Uses texts of the project instead of ours. */
export function setTexts(texts: Partial<Texts>): void {
  given = texts;
}

/** A text: the project’s, that of the page’s `data-loom-texts`, or ours. */
export function textOf(name: TextName, status?: number): string {
  const { lang, dataset } = document.documentElement;
  let ofPage: Partial<Texts> = {};
  try {
    ofPage = JSON.parse(dataset['loomTexts'] ?? '{}') as Partial<Texts>;
  } catch {
    // What is no JSON says nothing; the visitor is told all the same.
  }
  const text = given[name] ?? ofPage[name] ?? (/^de\b/i.test(lang) ? german : english)[name];
  return text.replace('{status}', String(status));
}
