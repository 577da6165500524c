/** One project: absolute paths, configuration, templates, samples, and the files around them. */
export { htmlFiles, htmlPaths, linkedHTML, readHTML } from './html-files.ts';
export { Project } from './project.ts';
export { addressOf, renderPage, renderPartial, runsOf } from './sample-pages.ts';
export { type Samples, samplesEnding } from './samples.ts';
export { assetFolderOf, ServedFiles } from './served-files.ts';
export { isWithin } from './within.ts';
export { assertNewFile, writeNewFile } from './write-new-file.ts';
