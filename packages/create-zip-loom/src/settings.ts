/** Choices for a new project. */
import { parseArgs } from 'node:util';
import { Refusal } from './refusal.ts';

const servers = ['hono', 'node', 'express'] as const;

export interface StarterSettings {
  /** The package’s name, in the letters that npm takes. */
  name: string;
  server: (typeof servers)[number];
  /** True for TypeScript, false for JavaScript. */
  isTyped: boolean;
  /** The version of zip-loom. */
  version: string;
}

/** The words of the command, read. */
export interface Settings extends Pick<StarterSettings, 'server' | 'isTyped'> {
  /** The folder’s path, as the developer wrote it. */
  folder: string;
  /** True to write over files that are there. */
  isForced: boolean;
}

export const help = `Usage: npm create zip-loom <folder> [-- options]

Writes a small running site: pages, a layout, a form, a region, styles and tests.

Options:
  --server <server>  what answers requests: hono (the default), node or express
  --js               JavaScript in place of TypeScript
  --force            write over files that are there

Examples:
  npm create zip-loom my-site
  npm create zip-loom my-site -- --server express --js`;

/** Reads the words behind the command. @throws {Refusal} for words that are not understood */
export function settingsOf(words: string[]): Settings | 'help' {
  const { values, positionals } = parsed(words);
  const [folder, ...others] = positionals;
  if (values.help) return 'help';
  const server = servers.find((one) => one === values.server);
  if (server === undefined)
    throw new Refusal(`There is no server “${values.server}”. Choose one: --server ${servers.join(', --server ')}`);
  if (folder === undefined || others.length > 0)
    throw new Refusal('Name one folder for the new site: npm create zip-loom my-site');
  return { folder, server, isTyped: !values.js, isForced: values.force };
}

function parsed(words: string[]) {
  try {
    return parseArgs({
      args: words,
      allowPositionals: true,
      options: {
        server: { type: 'string', default: 'hono' },
        js: { type: 'boolean', default: false },
        force: { type: 'boolean', default: false },
        help: { type: 'boolean', short: 'h', default: false },
      },
    });
  } catch (error) {
    const { message } = error as Error;
    const [, name] = /^Unknown option '(.+?)'/.exec(message) ?? [];
    throw new Refusal(
      `${name === undefined ? message : `There is no option “${name}”.`} All options: npm create zip-loom -- --help`,
    );
  }
}
