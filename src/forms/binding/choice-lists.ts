/** Choices as code gives them. */

/** Choices that come from data: by name, values or values with labels. */
export type ChoiceLists = Readonly<Record<string, ChoiceList>>;

/** Values, or values with labels. Those of one group that follow each other are shown together under its name. */
export type ChoiceList = ReadonlyArray<string | number | { value: string | number; label: string; group?: string }>;
