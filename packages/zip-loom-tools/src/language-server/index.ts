/** `zip-loom language-server`: the Language Server Protocol over standard input and output. */
export { serveLanguage } from './server.ts';
