import createCache from '@emotion/cache';
import { CacheProvider } from '@emotion/react';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Mooring } from './Mooring.tsx';

// The kit writes its styles into the page. The server allows them by a nonce, which it gives to the page.
const nonce = document.querySelector('meta[property="csp-nonce"]')?.getAttribute('content') ?? '';
const cache = createCache({ key: 'css', nonce });

createRoot(document.getElementById('app')!).render(
  <StrictMode>
    <CacheProvider value={cache}>
      <Mooring />
    </CacheProvider>
  </StrictMode>,
);
