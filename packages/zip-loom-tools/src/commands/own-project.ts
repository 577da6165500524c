/** The project that a command is called in. */
import type { Command } from 'commander';
import type { Terminal } from '../console/index.ts';
import { Project } from '../project/index.ts';

/** Finds the project of `--project`, or of the folder where the command is called. @throws {LoomError} as `Project.find` */
export function ownProject(terminal: Terminal, command: Command): Promise<Project> {
  const { project = '.' } = command.optsWithGlobals<{ project?: string }>();
  return Project.find(terminal.path(project));
}
