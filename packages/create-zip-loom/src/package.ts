/** The `package.json` of a new project. */
import type { StarterSettings } from './settings.ts';

export function packageText({ name, server, isTyped, version }: StarterSettings): string {
  const script = isTyped ? 'ts' : 'js';
  const node = isTyped ? 'node --import tsx' : 'node';
  const watching = isTyped ? 'node --watch --import tsx' : 'node --watch';
  const needed = {
    hono: { '@hono/node-server': '^2.1.8', hono: '^4.13.19' },
    node: { sirv: '^3.0.1' },
    express: { express: '^5.1.0' },
  }[server];
  const typesNeeded = server === 'express' ? { '@types/express': '^5.0.6' } : {};
  return `${JSON.stringify(
    {
      name,
      private: true,
      type: 'module',
      engines: { node: '>=20.19' },
      scripts: {
        dev: `${watching} server.${script} --dev`,
        start: `${node} server.${script}`,
        check: isTyped ? 'zip-loom types && zip-loom check && tsc' : 'zip-loom check',
        test: `${node} --test tests/app.test.${script}`,
      },
      dependencies: Object.fromEntries(
        Object.entries({
          ...needed,
          ...(isTyped ? { tsx: '^4.20.0' } : {}),
          'zip-loom': `^${version}`,
          zod: '^4.1.0',
        }).sort(),
      ),
      devDependencies: {
        ...(isTyped ? { ...typesNeeded, '@types/node': '^20.19.0', typescript: '>=5.4' } : {}),
        'zip-loom-tools': `^${version}`,
      },
    },
    null,
    2,
  )}\n`;
}
