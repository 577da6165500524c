/** Messages about packages that only some projects need. */
import { catalogue, worded } from './catalogue.ts';

const wordings = {
  'missing-package': worded<{ purpose: string; packages: readonly string[] }>({
    message: ({ purpose, packages }) =>
      `${purpose} ${packages.length === 1 ? 'needs the package' : 'needs the packages'} ${packages.join(', ')}, which ${packages.length === 1 ? 'is' : 'are'} not installed.`,
    hint: ({ packages }) => `Install what is missing: npm install ${packages.join(' ')}`,
    examples: [{ purpose: 'A form defined by plain JSON Schema', packages: ['ajv', 'ajv-formats'] }],
  }),
};

export const packageDiagnostic = catalogue(wordings);
