/** What keeps a project from being checked. */
import { catalogue, worded } from 'zip-loom/internal/diagnostics';

const wordings = {
  'stopped-compiler': worded<{ place: string; reason: string }>({
    message: ({ place, reason }) => `TypeScript cannot look at the templates: ${place} ${reason}`,
    hint: () => 'Repair that first, or leave types out with --no-types.',
    examples: [{ place: 'src/model.ts:3', reason: "';' expected." }],
  }),
  'unreadable-paths': worded<{ folder: string; reason: string }>({
    message: ({ folder, reason }) => `The folder of static pages ${folder} cannot be read: ${reason}.`,
    hint: () => 'Repair “paths” in the configuration: it is a folder of pages, or a list of paths.',
    examples: [{ folder: 'public', reason: 'ENOENT' }],
  }),
};

export const checkingDiagnostic = catalogue(wordings);
