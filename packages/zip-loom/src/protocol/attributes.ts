/**
 * Attributes of ours, on elements of a page and of an answer. All begin with `data-loom-`, so that an author’s own `data-from`
 * or `data-key` means nothing to us.
 */

// On regions.
/** The region’s name. */
export const regionAttribute = 'data-loom-region';
/** A nonce of the page, by which the server proves that a region, or the list at the end of a page, is its own. */
export const markAttribute = 'data-loom-mark';
/** Stands on the empty element that takes the place of a region which the browser has already. */
export const keptAttribute = 'data-loom-kept';
/** The interval at which a region asks for itself: `2s`, `500ms`, `5m`. */
export const pollAttribute = 'data-loom-poll';
/** The URL that a region loads its content from. */
export const fromAttribute = 'data-loom-from';
/** The channel whose changes a region shows. */
export const channelAttribute = 'data-loom-channel';
/** `near`: the region is loaded when it comes near the screen. */
export const whenAttribute = 'data-loom-when';

// Of authors, on links, forms, buttons and elements around them.
/** The region on whose behalf an element acts; `page` or `none`. */
export const updateAttribute = 'data-loom-update';
/** `input`: the form is submitted while the visitor types. `change`, on a control: the page is asked for again when another value is chosen. */
export const submitOnAttribute = 'data-loom-submit-on';
/** On an `<input list>` whose list is a region: the URL that has suggestions for what was typed. */
export const searchAttribute = 'data-loom-search';
/** Attributes that make the client send something while the visitor types or chooses: they count only with the server's mark. */
export const sendingAttributes: readonly string[] = [submitOnAttribute, searchAttribute];
/** By how many milliseconds such a form is debounced. */
export const debounceAttribute = 'data-loom-debounce';
/** On a link: its page is shown in a dialog. `dialog`, or `dialog boat-form` for one region of it. */
export const openAttribute = 'data-loom-open';
/** `keep`: the address bar stays as it is. */
export const urlAttribute = 'data-loom-url';
/** `none`: the element is never touched by a merge. */
export const mergeAttribute = 'data-loom-merge';
/** By what an element without an `id` is known again. */
export const keyAttribute = 'data-loom-key';
/** The bar of a form that shows how far its files have come. */
export const progressAttribute = 'data-loom-progress';
/** The button of a form that calls its files off. */
export const cancelAttribute = 'data-loom-cancel';
/** An element onto which files are dropped for the field inside. */
export const dropAttribute = 'data-loom-drop';
/** On such an element while files are over it. */
export const draggingAttribute = 'data-loom-dragging';
/** The element that is shown when the request of its region fails. */
export const onFailureAttribute = 'data-loom-on-failure';

/** On the dialogs that the client makes. */
export const dialogAttribute = 'data-loom-dialog';

/** The id of the element whose sentences screen readers say. */
export const announcerId = 'loom-announcer';

// On `<template>` elements of the server.
/** The page’s template and layouts: the element that a page and an answer end with. */
export const pageAttribute = 'data-loom-page';
/** The digests of the page’s regions, beside `pageAttribute`. */
export const digestsAttribute = 'data-loom-digests';
/** Where changes of channels come from, beside `pageAttribute`. */
export const channelsAttribute = 'data-loom-channels';
/** How far all channels were when the page was asked for, beside `pageAttribute`. */
export const positionAttribute = 'data-loom-position';
/** The region that the content is merged into. */
export const mergeIntoAttribute = 'data-loom-merge-into';
/** Content for the page’s `<head>`. */
export const headAttribute = 'data-loom-head';
/** The session’s token, for the forms that stay on the page. */
export const tokenAttribute = 'data-loom-token';
/** A change by name: where its content goes, as `at-end-of arrivals-rows`. */
export const putAttribute = 'data-loom-put';
/** A change by name: what goes from the page. */
export const removeAttribute = 'data-loom-remove';
/** A change by name: the region that the browser asks for itself. */
export const reloadAttribute = 'data-loom-reload';
/** The last element of an answer that holds changes as they come: `done` or `failed`. */
export const endAttribute = 'data-loom-end';
/** A whole page as text, at the end of such an answer. */
export const wholePageAttribute = 'data-loom-whole-page';
/** Content that came late, by the id of its place. */
export const lateAttribute = 'data-loom-late';
/** Late content of SVG or MathML, which is in an element that is not part of it. */
export const wrappedAttribute = 'data-loom-wrapped';

/** Where a change by name puts its content, as it is written before the target. */
export type PutPlace = 'at-start-of' | 'at-end-of' | 'before' | 'after' | 'in-place-of' | 'inside';
