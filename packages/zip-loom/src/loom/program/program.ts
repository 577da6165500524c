/** Templates that can run, wherever they come from: compiled on demand, or built ahead. */
import type { Diagnostic, DiagnosticError } from '../../diagnostics/index.ts';
import type { LayoutChooser, LoadedTemplate, MakeHelpers } from '../../kernel/index.ts';
import type { AssetFiles } from '../create/options.ts';
import type { Problems } from './template-errors.ts';

export interface Program {
  /**
   * Takes changed files in, where that is asked for.
   * @param name of the page or partial that is wanted, where nothing else matters
   */
  refresh(name?: string): void;
  page(name: string): LoadedTemplate | undefined;
  partial(name: string): LoadedTemplate | undefined;
  pageNames(): string[];
  partialNames(): string[];
  /** Where pages are looked for, with a slash at its end, and a file that would be one if it lay there. */
  whereIsPage(name: string): { folder: string; elsewhere: string | undefined };
  /** What names the layout of a page for each request, where that is so. */
  chooserOf(page: LoadedTemplate): LayoutChooser | undefined;
  /** @throws {TemplateError} for an error in the template or in anything that it calls */
  assertSound(template: LoadedTemplate): void;
  /** The error for data that a template does not take, or that leaves a parameter of that name out. */
  argumentError(template: LoadedTemplate, diagnostic: Diagnostic, name: string): DiagnosticError;
  /**
   * An error that was thrown while a template ran, with its place in the templates.
   * @param origin made where the part that failed began to wait
   */
  errorAt(error: unknown, origin?: Error): unknown;
  /** Where the site is mounted: `/app`, or '' for the root. */
  readonly base: string;
  /** Makes the helpers that come with the library; missing where no template uses one. */
  readonly createHelpers: MakeHelpers | undefined;
  /** Files that `asset(…)` finds. The same map while nothing has changed. */
  assets(): AssetFiles | undefined;
  /** Fixed texts around the values of each channel of a region; missing where they are not known. */
  channelNames(): ReadonlyArray<readonly string[]> | undefined;
  /** Whether any template of the project shows a page of the site in a frame. */
  framesItself(): boolean;
  /** Whether any template of the project posts a form; those of the library do not count. */
  postsForms(): boolean;
  /** What is wrong with all templates. */
  check(): Problems;
  /** Every place where a template trusts a value. */
  trusted(): Array<{ file: string; line: number; column: number; code: string }>;
  /** All template files, by their names in messages. */
  files(): string[];
}
