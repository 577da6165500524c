/** What is wrong with the arguments of a command, said as everything else is. */

type Rewording = readonly [pattern: RegExp, words: (...found: string[]) => string];

/** Messages of the argument parser → ours. */
const rewordings: readonly Rewording[] = [
  [/^unknown command '(.+?)'/, (name) => `There is no command “${name}”.`],
  [/^unknown option '(.+?)'/, (name) => `There is no option “${name}”.`],
  [/^missing required argument '(.+?)'/, (name) => `Which ${name}? Write it behind the command.`],
  [/^option '(.+?)' argument missing/, (option) => `The option “${option.split(' ')[0]}” needs a value: ${option}`],
  [
    /^too many arguments for '(.+?)'\. Expected (\d+) arguments? but got (\d+)/,
    (command, most, given) =>
      `“${command}” takes ${most === '1' ? 'one argument' : `${most} arguments`}, not ${given}.`,
  ],
  [
    /^command-argument value '(.+?)' is invalid for argument '(.+?)'\. ?(.*)/,
    (value, name, why) => `“${value}” cannot be the ${name}. ${why}`.trim(),
  ],
];

/** Rewords a message of the argument parser; one that is not known is left without its “error:”. */
export function inOurWords(text: string): string {
  const message = text.replace(/^error: /, '');
  const nearest = /\(Did you mean (.+?)\?\)/.exec(message)?.[1];
  for (const [pattern, words] of rewordings) {
    const found = pattern.exec(message);
    if (!found) continue;
    const [, ...parts] = found;
    return `${words(...parts)}${nearest ? ` Did you mean “${nearest}”?` : ''}\n`;
  }
  return message;
}
