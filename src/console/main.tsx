import { QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter } from 'react-router';
import { queries } from './api.js';
import { App } from './app.js';
import { reloadWhenStale } from './reload.js';
import { applyTheme, readTheme } from './theme.js';
import './style.css';

applyTheme(readTheme());
reloadWhenStale();

const root = document.getElementById('root');
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <App />
        </BrowserRouter>
      </QueryClientProvider>
    </StrictMode>,
  );
}
