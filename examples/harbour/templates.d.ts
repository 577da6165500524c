// Written by zip-loom from the templates; changes here are lost.
export {};

declare module 'zip-loom' {
  interface Pages {
    /** templates/pages/about.html */
    'about': Record<never, never>;
    /** templates/pages/berths/list.html */
    'berths/list': { berths: import('./model.ts').Berth[]; searchForm: import('./forms/forms.ts').SearchForm; total: number; page: number; pages: number };
    /** templates/pages/berths/show.html */
    'berths/show': { berth: import('./model.ts').Berth; stays: import('./model.ts').Stay[]; comments: import('./model.ts').Comment[]; watched: boolean; watchers: number };
    /** templates/pages/boats/edit.html */
    'boats/edit': { boat: import('./model.ts').Boat; boatForm: import('./forms/forms.ts').BoatForm };
    /** templates/pages/boats/list.html */
    'boats/list': { boats: import('./model.ts').Boat[]; total: number; page: number; pages: number };
    /** templates/pages/boats/new.html */
    'boats/new': { boatForm: import('./forms/forms.ts').BoatForm };
    /** templates/pages/boats/show.html */
    'boats/show': { boat: import('./model.ts').Boat };
    /** templates/pages/home.html */
    'home': { now: Date; tide: import('./data/tide.ts').TideNow; arrivals: import('./model.ts').Arrival[]; weather: () => Promise<import('./data/weather.ts').Weather> };
    /** templates/pages/not-found.html */
    'not-found': { path: string };
    /** templates/pages/profile.html */
    'profile': { detailsForm: import('./forms/forms.ts').DetailsForm; passwordForm: import('./forms/forms.ts').PasswordForm };
    /** templates/pages/rules.html */
    'rules': Record<never, never>;
    /** templates/pages/sign-in.html */
    'sign-in': { signInForm: import('./forms/forms.ts').SignInForm };
    /** templates/pages/staff/stays.html */
    'staff/stays': { stays: import('./data/stays.ts').StaffStay[] };
    /** templates/pages/staff/today.html */
    'staff/today': { day: import('./data/stays.ts').Day; today: string };
  }

  interface Partials {
    /** templates/layouts/base-layout.html */
    'base-layout': Record<never, never>;
    /** templates/partials/berth-card.html */
    'berth-card': { berth: import('./model.ts').Berth; titled?: boolean | undefined; [attribute: string]: unknown };
    /** templates/partials/boat-fields.html */
    'boat-fields': { boatForm: import('./forms/forms.ts').BoatForm };
    /** templates/partials/comment-tree.html */
    'comment-tree': { comments: import('./model.ts').Comment[] };
    /** templates/partials/data-table.html */
    'data-table': { rows: readonly unknown[]; label: string };
    /** templates/partials/page-links.html */
    'page-links': { page: number; pages: number; label?: string | undefined };
    /** templates/partials/site-footer.html */
    'site-footer': Record<never, never>;
    /** templates/layouts/site-layout.html */
    'site-layout': { wide?: boolean | undefined };
    /** templates/partials/site-nav.html */
    'site-nav': Record<never, never>;
    /** templates/layouts/staff-layout.html */
    'staff-layout': Record<never, never>;
    /** templates/partials/tide-clock.html */
    'tide-clock': { tide: import('./data/tide.ts').TideNow; now: Date };
    /** templates/partials/weather-box.html */
    'weather-box': { weather: () => Promise<import('./data/weather.ts').Weather> };
  }
}
