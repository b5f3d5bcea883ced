import { renderToString } from 'react-dom/server';
import { Form } from './react.tsx';

export const draw = (): string => renderToString(<Form action="/send" />);
