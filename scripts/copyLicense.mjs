// Puts the licence beside a package that is packed: each tarball has it.
import { copyFileSync } from 'node:fs';
import { join } from 'node:path';

copyFileSync(join(import.meta.dirname, '../LICENSE'), 'LICENSE');
