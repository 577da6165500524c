/** Names of ours among those of forms and of queries. */

/** The hidden field with the session’s token. */
export const tokenField = 'loom-token';

/** The hidden field with the sealed list of the names that a form showed. */
export const formField = 'loom-form';

/** The hidden field with the receipt of a file that was kept for another try. */
export const keptField = 'loom-kept';

/** The box that removes the file which a model has; its value names the field. */
export const removeField = 'loom-remove';

/** The hidden field with what a form takes along, sealed. */
export const stateField = 'loom-state';

/** The name of buttons that change a form instead of sending it off; the value says how: `add crew`, `remove crew[0]`, `refresh`, `back`. */
export const editField = 'loom-edit';

/** The box that stands for one box in every row of a list; its value names those: `boats[].chosen`. */
export const allField = 'loom-all';

/** The parameter of the query that says which method a POST stands for. */
export const methodParameter = '_method';

/** The parameter of the query by which a browser without scripts asks for a page in source order. */
export const orderParameter = 'loom-order';
