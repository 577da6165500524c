/** Definitions and forms as the library sees them: with the settings and the shape that users have no name for. */
import { askForChoices, asksForChoices, type FormExchange } from './binding/asked-choices.ts';
import { BoundForm } from './binding/bound-form.ts';
import type { BindOptions, FormContent } from './binding/content.ts';
import { assertBindOptions } from './check-settings.ts';
import type { Form, FormDefinition } from './form.ts';
import { areTexts, dependsOnLocale, isText } from './messages/by-locale.ts';
import type { Group } from './schema/shape.ts';
import type { FormSettings } from './settings.ts';

/** A definition with what users have no name for. */
export interface OwnDefinition<Name extends string = string, Input = unknown, Output = unknown>
  extends FormDefinition<Name, Input, Output> {
  readonly settings: FormSettings;
  /** The shape in force; defaults are those of this moment. */
  shape(): Group;
}

/** A definition, or a form that was bound to a model or to values. */
export type Readable<Name extends string, Input, Output> =
  | FormDefinition<Name, Input, Output>
  | Form<Name, Input, Output>;

/** The definition with its settings and shape. `defineForm` makes all definitions, so that each has them. */
export function definitionOf<Name extends string, Input, Output>(
  readable: Readable<Name, Input, Output>,
): OwnDefinition<Name, Input, Output> {
  return readable instanceof UnsentForm ? readable.definition : (readable as OwnDefinition<Name, Input, Output>);
}

/** The form to read into: a blank one of a definition. */
export function unsentForm<Name extends string, Input, Output>(
  readable: Readable<Name, Input, Output>,
): UnsentForm<Name, Input, Output> {
  return (readable instanceof UnsentForm ? readable : definitionOf(readable).blank()) as UnsentForm<
    Name,
    Input,
    Output
  >;
}

/** A form that has not been sent, as the library sees it. */
export class UnsentForm<Name extends string = string, Input = unknown, Output = unknown>
  extends BoundForm<Input>
  implements Form<Name, Input, Output>
{
  declare readonly output: Output;
  readonly definition: OwnDefinition<Name, Input, Output>;
  readonly bindOptions: BindOptions;

  constructor(
    definition: OwnDefinition<Name, Input, Output>,
    given: unknown,
    options: BindOptions,
    { asked, locale }: Pick<FormContent, 'asked' | 'locale'> = {},
  ) {
    const shape = definition.shape();
    assertBindOptions(definition.name, shape, options);
    super(definition.settings, shape, { model: given, errors: {}, asked, locale }, options);
    this.definition = definition;
    this.bindOptions = options;
  }

  override get name(): Name {
    return this.definition.name;
  }

  /** The form with the choices that its definition asks for. */
  async prepared(exchange: FormExchange): Promise<UnsentForm<Name, Input, Output>> {
    const { definition, given, bindOptions } = this;
    if (!this.waits) return this;
    const asked = await askForChoices(definition.settings, exchange, this);
    return new UnsentForm<Name, Input, Output>(definition, given, bindOptions, { asked, locale: this.content.locale });
  }

  /** The form for readers of a locale: itself where that makes no difference. */
  inLocale(locale: string): UnsentForm<Name, Input, Output> {
    const { definition, given, bindOptions, content } = this;
    if (content.locale !== undefined || !differsByLocale(this.settings, locale)) return this;
    return new UnsentForm<Name, Input, Output>(definition, given, bindOptions, { asked: content.asked, locale });
  }

  /** True until it has asked for its choices. */
  get waits(): boolean {
    return this.content.asked === undefined && asksForChoices(this.settings);
  }
}

/** True if a form says something else to readers of this locale than to others: our own words are English first. */
function differsByLocale({ labels, hints, choiceLabels, messages }: FormSettings, locale: string): boolean {
  return (
    !/^en\b/.test(locale) ||
    dependsOnLocale(labels, isText) ||
    dependsOnLocale(hints, isText) ||
    dependsOnLocale(choiceLabels, areTexts) ||
    dependsOnLocale(messages, (text) => typeof text !== 'object')
  );
}
