/** An object’s own values: what other code has put into `Object.prototype` is nobody’s wish. */

/** Options as a function reads them: what was given and nothing else. */
export function ownOptions<Options extends object>(given: Options | undefined): Options {
  return Object.assign(Object.create(null), given) as Options;
}

/** An object’s own value of a name, which may be the name of anything; `undefined` where it has none. */
export function ownValue<Value>(record: Readonly<Record<string, Value>> | undefined, name: string): Value | undefined {
  return record !== undefined && Object.hasOwn(record, name) ? record[name] : undefined;
}
