/** Types as TypeScript prints them in messages, as far as data is made of them. */

export type DataType =
  | { kind: 'text' | 'number' | 'boolean' | 'unknown' }
  /** A text, a number, `true`, `null` and so on, as in code. */
  | { kind: 'value'; value: string | number | boolean | null }
  /** `Date`, and others that have a name alone. */
  | { kind: 'named'; name: string }
  | { kind: 'list'; item: DataType }
  | { kind: 'tuple'; items: readonly DataType[] }
  | { kind: 'record'; fields: ReadonlyArray<{ name: string; isOptional: boolean; type: DataType }> }
  /** Without `undefined`. */
  | { kind: 'union'; options: readonly DataType[]; hasUndefined: boolean };

const tokenPattern =
  /\s*(\.\.\.|=>|"(?:[^"\\]|\\.)*"|`(?:[^`\\]|\\.)*`|-?\d[\d.e+]*n?|[\p{ID_Start}$_][\p{ID_Continue}$.]*|.)/suy;

/** Reads a type; what it does not know is unknown. */
export function readType(text: string): DataType {
  return new TypeReader(text).union();
}

/** A type as it is written in TypeScript; what has no values of its own is `any`. */
export function typeText(type: DataType): string {
  switch (type.kind) {
    case 'text':
      return 'string';
    case 'unknown':
      return 'any';
    case 'value':
      return JSON.stringify(type.value);
    case 'list':
      return `Array<${typeText(type.item)}>`;
    case 'tuple':
      return `[${type.items.map(typeText).join(', ')}]`;
    case 'union':
      return [...type.options.map(typeText), ...(type.hasUndefined ? ['undefined'] : [])].join(' | ');
    case 'named':
      return type.name;
    case 'record':
      return type.fields.some(({ name }) => name.startsWith('$'))
        ? 'any'
        : `{ ${type.fields.map((one) => `${JSON.stringify(one.name)}${one.isOptional ? '?' : ''}: ${typeText(one.type)}`).join('; ')} }`;
    default:
      return type.kind;
  }
}

class TypeReader {
  private readonly tokens: string[] = [];
  private at = 0;

  constructor(text: string) {
    tokenPattern.lastIndex = 0;
    for (let match = tokenPattern.exec(text); match; match = tokenPattern.exec(text)) this.tokens.push(match[1]!);
  }

  union(): DataType {
    this.take('|');
    const options = [this.intersection()];
    while (this.take('|')) options.push(this.intersection());
    if (options.length === 1) return options[0]!;
    const isUndefined = (one: DataType) => one.kind === 'named' && one.name === 'undefined';
    const real = options.filter((one) => !isUndefined(one));
    const hasUndefined = real.length < options.length;
    return real.length === 1 && !hasUndefined ? real[0]! : { kind: 'union', options: real, hasUndefined };
  }

  /** The records of an intersection as one; of anything else the first. */
  private intersection(): DataType {
    const parts = [this.postfix()];
    while (this.take('&')) parts.push(this.postfix());
    const records = parts.flatMap((one) => (one.kind === 'record' ? [one] : []));
    if (parts.length > 1 && records.length === parts.length)
      return { kind: 'record', fields: records.flatMap(({ fields }) => fields) };
    return parts[0]!;
  }

  private postfix(): DataType {
    this.take('readonly');
    let type = this.primary();
    while (this.peek() === '[' && this.tokens[this.at + 1] === ']') {
      this.at += 2;
      type = { kind: 'list', item: type };
    }
    return type;
  }

  private primary(): DataType {
    const token = this.next();
    if (token === '{') return this.record();
    if (token === '[') return { kind: 'tuple', items: this.until(']') };
    if (token === '(') {
      const type = this.union();
      this.take(')');
      return type;
    }
    if (token.startsWith('"')) return { kind: 'value', value: JSON.parse(token) as string };
    if (token.startsWith('`')) return { kind: 'text' };
    if (/^-?\d/.test(token)) return { kind: 'value', value: Number.parseFloat(token) };
    return this.named(token);
  }

  private named(name: string): DataType {
    const args = this.take('<') ? this.until('>') : [];
    switch (name) {
      case 'string':
        return { kind: 'text' };
      case 'number':
      case 'bigint':
        return { kind: 'number' };
      case 'boolean':
        return { kind: 'boolean' };
      case 'true':
      case 'false':
        return { kind: 'value', value: name === 'true' };
      case 'null':
        return { kind: 'value', value: null };
      case 'any':
      case 'unknown':
        return { kind: 'unknown' };
      case 'Array':
      case 'ReadonlyArray':
        return { kind: 'list', item: args[0] ?? { kind: 'unknown' } };
      default:
        return { kind: 'named', name };
    }
  }

  private record(): DataType {
    const fields: Array<{ name: string; isOptional: boolean; type: DataType }> = [];
    while (this.peek() !== undefined && !this.take('}')) {
      this.take('readonly');
      const token = this.next();
      // `[name: string]: …` says nothing of which names there are.
      if (token === '[') {
        this.until(']');
        this.take(':');
        this.union();
      } else {
        const isOptional = this.take('?');
        this.take(':');
        const name = token.startsWith('"') ? (JSON.parse(token) as string) : token;
        fields.push({ name, isOptional, type: this.union() });
      }
      this.take(';');
    }
    return { kind: 'record', fields };
  }

  private until(end: string): DataType[] {
    const types: DataType[] = [];
    while (this.peek() !== undefined && !this.take(end)) {
      types.push(this.union());
      // `[name: string]`
      if (this.take(':')) this.union();
      this.take(',');
    }
    return types;
  }

  private peek(): string | undefined {
    return this.tokens[this.at];
  }

  private next(): string {
    return this.tokens[this.at++] ?? '';
  }

  private take(token: string): boolean {
    if (this.peek() !== token) return false;
    this.at += 1;
    return true;
  }
}
