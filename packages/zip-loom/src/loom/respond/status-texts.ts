/** What visitors read on a page for an error, by status (RFC 9110 §15.5 and §15.6), in the languages that come with the library. */

export interface StatusText {
  title: string;
  text: string;
}

type StatusTexts = Readonly<Record<number, readonly [title: string, text: string]>>;

const english: StatusTexts = {
  400: ['Request not understood', 'The server could not read this request. Go back and try again.'],
  401: ['Please sign in', 'This page is for people who have signed in.'],
  403: [
    'Not allowed',
    'You may not see this page or do this. If you had a form open, go back, load the page again and send it once more.',
  ],
  404: [
    'Page not found',
    'There is no page at this address. Check it for typing mistakes, or start from the home page.',
  ],
  405: ['Not possible here', 'This address does not take such a request. Go back and try another way.'],
  408: ['Too slow', 'The request took too long to arrive. Try again.'],
  409: ['Changed meanwhile', 'Someone else has changed this meanwhile. Load the page again.'],
  410: ['No longer here', 'This page has been removed.'],
  413: ['Too large', 'What you sent is too large. Go back and send less, or smaller files.'],
  415: ['Not taken here', 'This kind of content is not taken here. Go back and send something else.'],
  422: ['Please check what you entered', 'Some of it cannot be used. Go back and correct it.'],
  429: ['Too many requests', 'You have sent many requests in a short time. Wait a moment and try again.'],
  500: ['Something went wrong', 'This page could not be made. Please try again later.'],
  503: ['Not available at the moment', 'The site is being worked on or is very busy. Please try again later.'],
};

const german: StatusTexts = {
  400: [
    'Anfrage nicht verstanden',
    'Der Server konnte diese Anfrage nicht lesen. Gehen Sie zurück und versuchen Sie es noch einmal.',
  ],
  401: ['Bitte anmelden', 'Diese Seite ist für angemeldete Personen.'],
  403: [
    'Nicht erlaubt',
    'Sie dürfen diese Seite nicht sehen oder dies nicht tun. Wenn ein Formular offen war: Gehen Sie zurück, laden Sie die Seite neu und senden Sie es noch einmal.',
  ],
  404: [
    'Seite nicht gefunden',
    'Unter dieser Adresse gibt es keine Seite. Prüfen Sie die Schreibweise, oder beginnen Sie auf der Startseite.',
  ],
  405: [
    'Hier nicht möglich',
    'Diese Adresse nimmt eine solche Anfrage nicht an. Gehen Sie zurück und versuchen Sie es anders.',
  ],
  408: ['Zu langsam', 'Die Anfrage kam nicht rechtzeitig an. Versuchen Sie es noch einmal.'],
  409: ['Inzwischen geändert', 'Jemand anders hat dies inzwischen geändert. Laden Sie die Seite neu.'],
  410: ['Nicht mehr hier', 'Diese Seite wurde entfernt.'],
  413: [
    'Zu groß',
    'Was Sie gesendet haben, ist zu groß. Gehen Sie zurück und senden Sie weniger oder kleinere Dateien.',
  ],
  415: [
    'Hier nicht angenommen',
    'Inhalte dieser Art werden hier nicht angenommen. Gehen Sie zurück und senden Sie etwas anderes.',
  ],
  422: [
    'Bitte prüfen Sie Ihre Eingaben',
    'Einiges davon kann nicht verwendet werden. Gehen Sie zurück und berichtigen Sie es.',
  ],
  429: [
    'Zu viele Anfragen',
    'Sie haben in kurzer Zeit viele Anfragen gesendet. Warten Sie einen Moment und versuchen Sie es noch einmal.',
  ],
  500: [
    'Etwas ist schiefgegangen',
    'Diese Seite konnte nicht erstellt werden. Bitte versuchen Sie es später noch einmal.',
  ],
  503: [
    'Zurzeit nicht verfügbar',
    'Die Website wird gerade bearbeitet oder ist stark besucht. Bitte versuchen Sie es später noch einmal.',
  ],
};

/** @param locale BCP 47; English where the library has no texts of its language */
export function statusText(status: number, locale: string | undefined): StatusText {
  const texts = isGerman(locale) ? german : english;
  const [title, text] = texts[status] ?? texts[status >= 500 ? 500 : 400]!;
  return { title, text };
}

/** What stands before the number that a visitor can quote. */
export function quoteText(number: string, locale: string | undefined): string {
  return isGerman(locale)
    ? `Wenn Sie uns deswegen schreiben, nennen Sie bitte die Nummer ${number}.`
    : `If you write to us about it, please quote the number ${number}.`;
}

function isGerman(locale: string | undefined): boolean {
  return /^de\b/i.test(locale ?? '');
}
