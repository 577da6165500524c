/** What a new project is to be like. */
export const servers = ['hono', 'node', 'express'] as const;

export interface StarterSettings {
  /** As npm takes it. */
  name: string;
  server: (typeof servers)[number];
  /** Whether it is in TypeScript. */
  isTyped: boolean;
  /** Of zip-loom. */
  version: string;
}
