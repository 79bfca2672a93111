import '@mantine/core/styles.css';
import './board.css';
import { createTheme, MantineProvider } from '@mantine/core';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { App } from './app.js';

const theme = createTheme({
  primaryColor: 'teal',
  primaryShade: 9,
  autoContrast: true,
  respectReducedMotion: true,
  fontFamily: 'system-ui, "DejaVu Sans", sans-serif',
  fontFamilyMonospace: '"DejaVu Sans Mono", ui-monospace, monospace',
  defaultRadius: 'sm',
});

createRoot(document.getElementById('root') ?? document.body).render(
  <StrictMode>
    <MantineProvider theme={theme} defaultColorScheme="auto">
      <App />
    </MantineProvider>
  </StrictMode>,
);
