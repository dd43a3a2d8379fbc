/** Before the unit tests: the command line is bundled from the sources as they are. */
// @ts-expect-error: a plain module without types
import { bundle } from '../../bin/lib/bundle.mjs';

export const setup = (): Promise<void> => bundle(['dialtune']);
