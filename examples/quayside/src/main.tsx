import '@mantine/core/styles.css';
import './quayside.css';
import { createTheme, MantineProvider } from '@mantine/core';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { App } from './app.js';

const theme = createTheme({
  primaryColor: 'indigo',
  primaryShade: 8,
  autoContrast: true,
  respectReducedMotion: true,
  defaultRadius: 'md',
  fontFamily: 'system-ui, "DejaVu Sans", sans-serif',
});

const root = document.getElementById('root');
if (root === null) throw new Error('the page has no root');
createRoot(root).render(
  <StrictMode>
    <MantineProvider theme={theme} defaultColorScheme="light">
      <App />
    </MantineProvider>
  </StrictMode>,
);
