/** What forms say about what was typed, by code. A project words them anew, for all locales or for some. */

/** Numbers and names that a message may mention. */
export interface MessageFacts {
  label: string;
  limit?: number | undefined;
}

type MessageText = string | ((facts: MessageFacts) => string);

const defaultMessages = {
  required: 'This field is required.',
  'must-be-true': 'Please tick this box.',
  number: 'Please write a number, as 12 or 12.5.',
  integer: 'Please write a whole number.',
  boolean: 'Please answer with yes or no.',
  date: 'Please give a date that exists, as 2026-06-12.',
  time: 'Please give a time, as 14:05.',
  'datetime-local': 'Please give a date and a time that exist.',
  month: 'Please give a month, as 2026-06.',
  week: 'Please give a week, as 2026-W24.',
  choice: 'Please choose one of the list.',
  'too-long': ({ limit }: MessageFacts) => `Please use at most ${limit} characters.`,
  'too-many': ({ limit }: MessageFacts) => `Please give at most ${limit}.`,
  again: 'Some fields need another look.',
  refused: 'This form was open for a long time, or was not sent from this site. Please send it again.',
  unknown: 'The form holds fields that it does not have.',
} satisfies Record<string, MessageText>;

export type MessageCode = keyof typeof defaultMessages;

/** Words for some codes. */
type Wording = Partial<Record<MessageCode, MessageText>>;

/** Words for all locales, or by locale: `{ de: { required: '…' } }`. */
export type Messages = Wording | Readonly<Record<string, Wording>>;

/** The text for a code in a locale: the project’s own where there is one. */
export function wordingFor(
  messages: Messages | undefined,
  locale: string | undefined,
): (code: MessageCode, facts: MessageFacts) => string {
  const language = locale?.split('-')[0];
  const own = { ...plainWording(messages), ...byLocale(messages, language), ...byLocale(messages, locale) };
  return (code, facts) => {
    const text: MessageText = own[code] ?? defaultMessages[code];
    return typeof text === 'function' ? text(facts) : text;
  };
}

function plainWording(messages: Messages = {}): Wording {
  return Object.fromEntries(Object.entries(messages).filter(([, text]) => typeof text !== 'object')) as Wording;
}

function byLocale(messages: Messages = {}, locale: string | undefined): Wording {
  const found: unknown =
    locale !== undefined && Object.hasOwn(messages, locale) ? (messages as Record<string, unknown>)[locale] : undefined;
  return typeof found === 'object' && found !== null ? (found as Wording) : {};
}
