/** The project that a command works on: made once, and handed to whatever needs it. */
import { createJiti } from 'jiti';
import type { Compilation } from 'zip-loom/internal/compiler';
import type { Loom } from 'zip-loom/internal/loom';
import {
  type CompiledProject,
  compileProject,
  createLoom,
  createTracingLoom,
  findProject,
  moduleLoader,
  type NodeLoomOptions,
  type PagePaths,
  pagePaths,
  templatesFolder,
} from 'zip-loom/internal/node';
import { readSamples, type Samples } from './samples.ts';

type CompileSettings = Parameters<typeof compileProject>[2];

export class Project {
  /** The absolute path of the folder that holds the configuration or the templates. */
  readonly folder: string;
  /** The configuration’s file; missing where there is none. */
  readonly configuration: string | undefined;
  /** What the configuration says, with absolute paths. */
  readonly options: NodeLoomOptions;
  /** The absolute path of the folder of templates. */
  readonly templates: string;
  readonly pages: PagePaths;

  private constructor(folder: string, configuration: string | undefined, options: NodeLoomOptions) {
    this.folder = folder;
    this.configuration = configuration;
    this.options = options;
    this.templates = templatesFolder(options);
    this.pages = pagePaths(options);
  }

  /**
   * The project that a folder belongs to.
   * @throws {LoomError} when there is none, or when its configuration cannot be loaded
   */
  static async find(start: string): Promise<Project> {
    const { folder, file, options } = await findProject(start, moduleLoader(createJiti));
    return new Project(folder, file, options);
  }

  /**
   * All templates at once, whatever is wrong with them.
   * @param previous the state before: what has not changed since is not read again
   * @throws {LoomError} when the templates’ folder or the assets cannot be read
   */
  compile(previous?: Compilation, settings?: CompileSettings): CompiledProject {
    return compileProject(this.options, previous, settings);
  }

  /** All samples, by the template’s path below the folder of templates without its ending. @throws {LoomError} as `readSamples` */
  samples(): Promise<Map<string, Samples>> {
    return readSamples(this.templates);
  }

  /**
   * A loom in development mode: only what a page needs has to be sound. It logs nothing, for what fails is told in the result.
   * @param sources templates in place of the project’s own, by their paths
   */
  loom(sources?: Record<string, string>): Promise<Loom> {
    const { templates: _, ...options } = this.options;
    const given = sources === undefined ? this.options : { ...options, sources };
    return createLoom({ ...given, mode: 'development', logger: false });
  }

  /** The same, with the logger of the configuration. @param logger where it has none */
  loggingLoom(logger: NonNullable<NodeLoomOptions['logger']>): Promise<Loom> {
    return createLoom({ logger, ...this.options, mode: 'development' });
  }

  /** The same, with marks of the template and the line that made each part. */
  tracingLoom(): Promise<Loom> {
    return createTracingLoom({ logger: false, ...this.options });
  }
}
