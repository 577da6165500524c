/** The parts of a page that was written into a file: outlined as soon as it is opened. */
import { copyPlace } from './copy-place.ts';
import { partsOf } from './parts.ts';
import { openView } from './view.ts';

const view = openView({ leave: () => view.close(), open: ({ file, line }) => copyPlace(file, line) });
view.show(partsOf(document));
