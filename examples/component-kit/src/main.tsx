import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Mooring } from './Mooring.tsx';

createRoot(document.getElementById('app')!).render(
  <StrictMode>
    <Mooring />
  </StrictMode>,
);
