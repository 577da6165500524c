/** What the TypeScript of every template begins with: what the run-time takes, as types. */

/** The name of its module. */
export const preludeModule = 'zip-loom-templates.ts';

export interface PreludeSettings {
  /** The module of the configuration as this one imports it; missing where there is none. */
  configuration?: string | undefined;
  /** Whether the project’s own declarations are read, and with them what it adds to `LoomContext`. */
  hasDeclarations: boolean;
}

export function prelude({ configuration, hasDeclarations }: PreludeSettings): string {
  // A module in JavaScript would be of any type, and all helpers with it.
  const typed = configuration !== undefined && /\.[cm]?ts$/.test(configuration) ? configuration : undefined;
  return `// Written by zip-loom to check the types of templates; changes here are lost.
import type { LoomContext, TrustedMarkup, TrustedURL } from 'zip-loom';
import type { createHelpers } from 'zip-loom/runtime';
${typed === undefined ? 'type Configuration = object;' : `import type configured from ${JSON.stringify(typed)};\ntype Configuration = typeof configured;`}

/** What text can be made of. A boolean prints nothing; false is what \`a && b\` gives. */
export type Printable = string | number | bigint | false | null | undefined | URL | TrustedMarkup | TrustedURL | ReadonlyArray<Printable | true>;

type BuiltIn = 'locale' | 'timeZone' | 'page' | 'url' | 'token' | 'flash';
type Known = Omit<LoomContext, BuiltIn> & { [Name in BuiltIn]-?: Exclude<LoomContext[Name], undefined> };
interface Context extends Known {${hasDeclarations ? '' : ' [name: string]: any '}}
export declare const context: Context;

type Own = Configuration extends { helpers: infer Given } ? Given : object;
type Loose<Value> = unknown extends Value ? any : Value;
type Helpers = Omit<ReturnType<typeof createHelpers>, keyof Own> & { readonly [Name in keyof Own]: Loose<Own[Name]> };
/** A configuration in JavaScript does not say which helpers it has. */
type Untold = ${configuration !== undefined && !typed ? 'Readonly<Record<string, any>>' : 'object'};
export interface AllHelpers extends Helpers {}
export declare const helpers: AllHelpers & Untold;
/** Helpers may be registered in code, where nobody sees them. */
export declare function helper<Name extends string>(name: Name): Name extends keyof Helpers ? Helpers[Name] : any;

export declare const slots: Readonly<Record<string, boolean>>;
export declare const errors: any;
export declare function same<Value>(value: Value): Value;
/** What \`...\` takes. */
export type Spreadable = object | null | undefined | false;
export declare function joined(...values: Printable[]): string;
export declare function either<Value, Fallback>(value: Value, fallback: Fallback): Exclude<Value, undefined> | Fallback;
export declare function each<Item>(items: Iterable<Item> | AsyncIterable<Item> | null | undefined): Item[];
export declare function eachWithIndex<Item>(items: Iterable<Item> | AsyncIterable<Item> | null | undefined): Array<[Item, number]>;
type Settled<Value> = Awaited<Value extends (...given: never[]) => infer Result ? Result : Value>;
export declare function settled<Value>(value: Value): Settled<Value>;
export declare const caught: Error & { readonly [name: string]: any };

/** Names of controls: \`crew[0].name\`. */
type Leaf = string | number | bigint | boolean | symbol | Date | Blob | null | undefined | ((...given: never[]) => unknown);
type Path<Model, Depth extends unknown[]> = 0 extends 1 & Model
  ? string
  : Depth['length'] extends 4
    ? string
    : Model extends Leaf
      ? never
      : Model extends ReadonlyArray<infer Item>
        ? \`[\${number | ''}]\` | \`[\${number | ''}]\${Below<Item, [...Depth, 1]>}\`
        : { [Key in keyof Model & string]: Key | \`\${Key}\${Below<Exclude<Model[Key], null | undefined>, [...Depth, 1]>}\` }[keyof Model & string];
type Below<Model, Depth extends unknown[]> = Model extends ReadonlyArray<unknown> ? Path<Model, Depth> : Model extends Leaf ? never : \`.\${Path<Model, Depth>}\`;
export type FieldName<Bound> = Bound extends { readonly model: infer Model } ? (unknown extends Model ? string : Path<Model, []>) : string;
export declare function bind<Bound extends object>(form: Bound): Bound;
export declare function field<Bound>(form: Bound, name: FieldName<Bound>): void;

/** A question: the message about it lists the names that a type has. */
export declare function named<Value>(value: Value, name: NamesOf<NonNullable<Value>>): any;
type NamesOf<Value> = Value extends unknown ? { [Name in keyof Value & string]-?: Name }[keyof Value & string] : never;

/** What a slot gives to what fills it. */
export declare function gives<const Slot extends string, Values>(slot: Slot, values: Values): { slot: Slot; values: Values };
type Of<Part, Slot extends string> = [Extract<Part, { slot: Slot }>] extends [never] ? any : Extract<Part, { slot: Slot }> extends { values: infer Values } ? { [Name in keyof Values]: Loose<Values[Name]> } : any;
type Given<Template, Slot extends string> = Template extends (...given: any) => Generator<infer Part, any, any> ? Of<Part, Slot> : any;
export declare function given<Template, Slot extends string>(): Given<Template, Slot>;
`;
}
