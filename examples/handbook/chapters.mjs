/** The chapters of the handbook, in the order in which a developer meets things. */
export const parts = [
  { title: 'Begin', chapters: ['start', 'templates', 'options'] },
  { title: 'Pages that answer', chapters: ['servers', 'forms', 'files', 'updates', 'channels'] },
  {
    title: 'Work on it',
    chapters: ['development', 'checking', 'editor', 'samples', 'tracing', 'formatting', 'testing'],
  },
  { title: 'Put it online', chapters: ['vite', 'building', 'static-sites', 'security', 'performance'] },
  { title: 'Come from elsewhere', chapters: ['adopting'] },
  { title: 'Look it up', chapters: ['errors', 'architecture', 'decisions'] },
];
