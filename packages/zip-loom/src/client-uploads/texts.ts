/** What is said of files on their way, in the page’s language. */

/** `{percent}` stands for how much has been sent. */
export interface UploadTexts {
  /** The name of the progress bar. */
  sending: string;
  /** Said when all has been sent. */
  sent: string;
  /** The button that calls an upload off. */
  cancel: string;
  /** Said when one was called off. */
  cancelled: string;
}

const english: UploadTexts = {
  sending: 'Sending files',
  sent: '{percent} % sent',
  cancel: 'Stop sending',
  cancelled: 'The files were not sent.',
};

const german: UploadTexts = {
  sending: 'Dateien werden gesendet',
  sent: '{percent} % gesendet',
  cancel: 'Nicht senden',
  cancelled: 'Die Dateien wurden nicht gesendet.',
};

let given: Partial<UploadTexts> = {};

/** Uses texts of the project instead of ours. */
export function setTexts(texts: Partial<UploadTexts>): void {
  given = texts;
}

export function textOf(name: keyof UploadTexts, percent = 0): string {
  const own = /^de\b/i.test(document.documentElement.lang) ? german : english;
  return (given[name] ?? own[name]).replace('{percent}', String(percent));
}
