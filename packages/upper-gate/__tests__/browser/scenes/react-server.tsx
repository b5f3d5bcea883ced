import { renderToString } from 'react-dom/server';
import type { Answer } from './forms.ts';
import { Form } from './react.tsx';

export { received } from './server.ts';
export const draw = (posted?: Answer): string => renderToString(<Form url="/send" posted={posted} />);
