/** The names of modules that are made here. They begin with a mark that keeps other plugins away (a convention of Rollup). */
import { dirname, posix, resolve } from 'node:path';

const made = '\0zip-loom:';

/** The client, as it is in development. */
export const clientId = `${made}client`;
/** Stands for a change that is no change of a module. */
export const nothingId = `${made}nothing`;

/** The modules of one project’s templates; a site may use those of several. */
export class ModuleIds {
  /** All templates, put together for a loom. */
  readonly index: string;
  private readonly prefix: string;

  /** @param folder of the templates */
  constructor(folder: string) {
    this.prefix = `${made}${folder}:`;
    this.index = `${this.prefix}index.js`;
  }

  isOwn(id: string): boolean {
    return id.startsWith(this.prefix);
  }

  /** The templates of a file, with all that they can come to call, put together for a loom. */
  ofFile(file: string): string {
    return `${this.prefix}file:${file}.js`;
  }

  /** The file that a module puts together; `undefined` for any other module. */
  fileOf(id: string): string | undefined {
    const start = `${this.prefix}file:`;
    return id.startsWith(start) ? id.slice(start.length, -'.js'.length) : undefined;
  }

  isIndex(id: string): boolean {
    return id === this.index || this.fileOf(id) !== undefined;
  }

  /** Below the folder of modules. */
  pathOf(id: string): string {
    return id.slice(this.prefix.length);
  }

  /** What a module of templates names, as it is below the folder of modules. */
  named(specifier: string, importer: string): string {
    return posix.join(this.isIndex(importer) ? '' : posix.dirname(this.pathOf(importer)), specifier);
  }

  ofPath(path: string): string {
    return this.prefix + path;
  }
}

/** The file that a script on disk names. */
export function fileNamed(specifier: string, importer: string): string {
  return resolve(dirname(importer.split('?')[0]!), specifier);
}
