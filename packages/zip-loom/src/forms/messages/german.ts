import type { english } from './english.ts';
import { type MessageFacts, type MessageText, sizeOf } from './message.ts';

/** What forms say in German. */
export const german: Readonly<Record<keyof typeof english, MessageText>> = {
  required: 'Bitte füllen Sie dieses Feld aus.',
  'must-be-true': 'Bitte setzen Sie hier ein Häkchen.',
  number: 'Bitte geben Sie eine Zahl ein, zum Beispiel 12 oder 12.5.',
  integer: 'Bitte geben Sie eine ganze Zahl ein.',
  boolean: 'Bitte antworten Sie mit Ja oder Nein.',
  date: 'Bitte geben Sie ein Datum ein, das es gibt, zum Beispiel 2026-06-12.',
  time: 'Bitte geben Sie eine Uhrzeit ein, zum Beispiel 14:05.',
  'datetime-local': 'Bitte geben Sie Datum und Uhrzeit ein, die es gibt.',
  month: 'Bitte geben Sie einen Monat ein, zum Beispiel 2026-06.',
  week: 'Bitte geben Sie eine Woche ein, zum Beispiel 2026-W24.',
  choice: 'Bitte wählen Sie aus der Liste.',
  email: 'Bitte geben Sie eine E-Mail-Adresse ein, zum Beispiel name@example.org.',
  url: 'Bitte geben Sie eine URL ein, zum Beispiel https://example.org.',
  pattern: 'Das hat nicht die verlangte Form.',
  'too-short': ({ limit = 0 }: MessageFacts) => `Bitte mindestens ${limit} Zeichen.`,
  'too-long': ({ limit = 0 }: MessageFacts) => `Bitte höchstens ${limit} Zeichen.`,
  'too-small': ({ limit = 0 }: MessageFacts) => `Bitte geben Sie ${limit} oder mehr ein.`,
  'too-large': ({ limit = 0 }: MessageFacts) => `Bitte geben Sie ${limit} oder weniger ein.`,
  'not-above': ({ limit = 0 }: MessageFacts) => `Bitte geben Sie mehr als ${limit} ein.`,
  'not-below': ({ limit = 0 }: MessageFacts) => `Bitte geben Sie weniger als ${limit} ein.`,
  step: ({ limit = 1 }: MessageFacts) => `Bitte geben Sie ein Vielfaches von ${limit} ein.`,
  'file-type': 'Dateien dieser Art werden hier nicht angenommen.',
  'file-too-large': ({ limit = 0 }: MessageFacts) =>
    `Bitte wählen Sie eine Datei von höchstens ${sizeOf(limit, 'de')}.`,
  'file-quota': 'Sie haben in kurzer Zeit viele Dateien gesendet. Bitte versuchen Sie es später noch einmal.',
  'file-not-kept': 'Die Datei konnte hier nicht aufbewahrt werden. Bitte versuchen Sie es später noch einmal.',
  'file-gone': 'Die Datei von vorhin ist nicht mehr da. Bitte wählen Sie sie noch einmal.',
  'file-kept': ({ label }: MessageFacts) => `${label} ist angekommen und muss nicht noch einmal gewählt werden.`,
  'file-present': ({ label }: MessageFacts) => `Jetzige Datei: ${label}`,
  'file-remove': ({ label }: MessageFacts) => `${label} entfernen`,
  'not-a-file': 'Bitte wählen Sie eine Datei.',
  'too-many': ({ limit = 0 }: MessageFacts) => `Bitte höchstens ${entries(limit)}.`,
  'too-few': ({ limit = 0 }: MessageFacts) => `Bitte mindestens ${entries(limit)}.`,
  'sent-before': 'Dieses Formular wurde schon gesendet.',
  changed: ({ label }: MessageFacts) =>
    `Jemand hat dies inzwischen in „${label}“ geändert. Senden Sie noch einmal, um Ihre Eingabe zu behalten.`,
  'changed-empty': 'Jemand hat dies inzwischen geleert. Senden Sie noch einmal, um Ihre Eingabe zu behalten.',
  conflict: 'Jemand hat dies inzwischen geändert. Bitte sehen Sie die markierten Felder an und senden Sie noch einmal.',
  adopted:
    'Jemand hat dies inzwischen geändert. Was Sie nicht geändert haben, wird gezeigt, wie es jetzt ist; bitte senden Sie noch einmal.',
  'required-mark': 'erforderlich',
  'all-rows': ({ label }: MessageFacts) => `${label}: alle`,
  'add-row': 'Hinzufügen',
  'remove-row': 'Entfernen',
  row: ({ label, limit = 0 }: MessageFacts) => `${label} ${limit}`,
  again: 'Bitte prüfen Sie die markierten Felder.',
  refused:
    'Dieses Formular war lange offen oder wurde nicht von dieser Seite gesendet. Bitte senden Sie es noch einmal.',
  unknown: 'Das Formular wurde mit Feldern gesendet, die es nicht hat.',
  'body-encoded': 'Das Formular wurde in einer Kodierung gesendet, die hier nicht gelesen wird.',
  'body-type': 'Was gesendet wurde, ist kein Formular.',
  'body-used': 'Das Formular wurde schon gelesen.',
  'body-late': 'Das Formular ist nicht rechtzeitig angekommen. Bitte senden Sie es noch einmal.',
  'body-cut-off': 'Das Formular ist nur zum Teil angekommen. Bitte senden Sie es noch einmal.',
  'body-unreadable': 'Was gesendet wurde, lässt sich nicht lesen.',
  'body-too-large': ({ limit = 0 }: MessageFacts) => `Das Formular ist größer als ${Math.round(limit / 1024)} KiB.`,
  'body-too-many': ({ limit = 0 }: MessageFacts) => `Das Formular hat mehr als ${limit} Felder.`,
  'body-files': 'Dateien werden hier nicht angenommen.',
  'too-many-files': ({ limit = 0 }: MessageFacts) =>
    `Bitte senden Sie höchstens ${limit === 1 ? 'eine Datei' : `${limit} Dateien`} auf einmal.`,
  'files-too-large': ({ limit = 0 }: MessageFacts) =>
    `Bitte senden Sie Dateien von zusammen höchstens ${sizeOf(limit, 'de')}.`,
  'name-too-long': ({ limit = 0 }: MessageFacts) => `Der Name eines Feldes ist länger als ${limit} Zeichen.`,
};

function entries(number: number): string {
  return number === 1 ? 'einen Eintrag' : `${number} Einträge`;
}
