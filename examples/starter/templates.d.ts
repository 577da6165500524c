// Written by zip-loom from the templates; changes here are lost.
export {};

declare module 'zip-loom' {
  interface Pages {
    /** templates/pages/about.html */
    'about': Record<never, never>;
    /** templates/pages/home.html */
    'home': { entries: import('./log.ts').Entry[]; entryForm: import('./forms.ts').EntryForm };
  }

  interface Partials {
    /** templates/partials/log-entry.html */
    'log-entry': { entry: import('./log.ts').Entry };
    /** templates/layouts/site-layout.html */
    'site-layout': Record<never, never>;
  }
}
