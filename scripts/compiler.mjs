// The compiler that builds and checks: the native one, about eight times as fast. (Tools that read programs through the older
// compiler's interface, such as ESLint and the documentation, keep that one; CI checks the types with both.)
import { fileURLToPath } from 'node:url';

/** The script that starts it. */
export const tsc = fileURLToPath(new URL('../node_modules/typescript-native/bin/tsc', import.meta.url));
