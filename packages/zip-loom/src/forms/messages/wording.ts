/** What forms say about what was typed, by code. A project words them anew, for all locales or for some. */
import { ownValue } from '../../security/index.ts';
import { inLocale } from './by-locale.ts';
import { english } from './english.ts';
import { german } from './german.ts';
import type { MessageFacts, MessageText } from './message.ts';

export type { MessageFacts } from './message.ts';

/** Languages that come with the library. */
const languages: Readonly<Record<string, Readonly<Record<MessageCode, MessageText>>>> = { en: english, de: german };

export type MessageCode = keyof typeof english;

export const messageCodes = Object.keys(english) as readonly MessageCode[];

/** Words for some codes. */
export type Wording = Partial<Record<MessageCode, MessageText>>;

/** Words for all locales, or by locale: `{ de: { required: '…' } }`. */
export type Messages = Wording | Readonly<Record<string, Wording>>;

/** The text for a code in a locale: the project’s own where there is one. */
export function wordingFor(
  messages: Messages | undefined,
  locale: string | undefined,
): (code: MessageCode, facts: MessageFacts) => string {
  const language = locale?.split('-')[0];
  const own = inLocale<MessageText>(messages, locale, (value) => typeof value !== 'object') ?? {};
  const ours: Readonly<Record<MessageCode, MessageText>> = (language && ownValue(languages, language)) || english;
  return (code, facts) => {
    const text: MessageText = own[code] ?? ours[code];
    return typeof text === 'function' ? text(facts) : text;
  };
}
