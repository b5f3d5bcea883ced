import 'lock-passage/style.css';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Steps } from './Steps.tsx';

createRoot(document.getElementById('app')!).render(
  <StrictMode>
    <Steps />
  </StrictMode>,
);
