/** Programs that serve something, and say where. */
import type { ChildProcess } from 'node:child_process';

/** The address that a program prints first; fails with what it has printed when it ends instead. */
export function addressOf(child: ChildProcess): Promise<string> {
  return new Promise((found, failed) => {
    let output = '';
    const look = (text: Buffer) => {
      output += String(text);
      const [url] = /http:\/\/localhost:\d+\//.exec(output) ?? [];
      if (url) found(url);
    };
    child.stdout!.on('data', look);
    child.stderr!.on('data', look);
    child.once('exit', () => failed(new Error(output)));
  });
}
