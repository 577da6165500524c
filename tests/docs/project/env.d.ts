declare module '*.html' {
  export const built: import('zip-loom').BuiltTemplates;
}
