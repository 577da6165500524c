/** The chapters of the handbook, in the order in which a developer meets things. */
import { readdirSync } from 'node:fs';

/** What an entry of the package exports: a chapter each, made from the sources. */
const reference = readdirSync(new URL('../../docs/reference/', import.meta.url))
  .filter((file) => file !== 'README.md')
  .map((file) => `reference/${file.replace('.md', '')}`)
  .sort((one, other) => one.length - other.length || one.localeCompare(other));

export const parts = [
  { title: 'Begin', chapters: ['start', 'templates', 'layouts', 'data'] },
  {
    title: 'Pages that answer',
    chapters: ['forms', 'files', 'updates', 'channels', 'options', 'servers', 'recipes'],
  },
  {
    title: 'Work on it',
    chapters: ['development', 'checking', 'editor', 'samples', 'tracing', 'formatting', 'testing', 'adopting'],
  },
  {
    title: 'Put it online',
    chapters: ['building', 'vite', 'static-sites', 'deployment', 'security', 'performance'],
  },
  { title: 'Look it up', chapters: ['errors', 'decisions', 'architecture'] },
  { title: 'Reference', chapters: reference },
];
