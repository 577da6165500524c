/** Short ways to render templates in tests. */
import { createLoom, type LoomOptions, TemplateError } from 'zip-loom';

/** Renders one page from text; further templates by path. */
export async function render(
  page: string,
  data: object = {},
  sources: Record<string, string> = {},
  options: LoomOptions = {},
): Promise<string> {
  const loom = await createLoom({ sources: { 'pages/page.html': page, ...sources }, ...options });
  return loom.render('page', data);
}

/** The errors of a page and its warnings, as `code@line:column`. */
export async function problems(
  page: string,
  sources: Record<string, string> = {},
  options: LoomOptions = {},
): Promise<string[]> {
  return (await errors(page, sources, options)).map((error) => `${error.code}@${error.line}:${error.column}`);
}

/** The errors of a page, and then its warnings. */
export async function errors(
  page: string,
  sources: Record<string, string> = {},
  options: LoomOptions = {},
): Promise<TemplateError[]> {
  const loom = await createLoom({ sources: { 'pages/page.html': page, ...sources }, mode: 'development', ...options });
  const found = loom.check();
  return [...found.errors, ...found.warnings];
}

/** The error that rendering a page throws. */
export async function failure(
  page: string,
  data: object = {},
  sources: Record<string, string> = {},
): Promise<TemplateError> {
  const loom = await createLoom({ sources: { 'pages/page.html': page, ...sources }, mode: 'development' });
  try {
    loom.renderSync('page', data);
  } catch (error) {
    if (error instanceof TemplateError) return error;
    throw error;
  }
  throw new Error('The page was rendered without an error.');
}

/** The notices that rendering a page gives, by code. */
export async function notices(page: string, data: object, options: LoomOptions = {}): Promise<string[]> {
  const codes: string[] = [];
  const logger = { warn: (details: object) => codes.push((details as { code: string }).code), error: () => {} };
  await render(page, data, {}, { logger, ...options });
  return codes;
}
