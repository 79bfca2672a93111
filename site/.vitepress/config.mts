import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { type DefaultTheme, defineConfig } from 'vitepress';

const DOCS = fileURLToPath(new URL('../../docs', import.meta.url));

/** The pages, in the order of docs/index.md: what stands there stands at the side. */
const sections = (): DefaultTheme.SidebarItem[] => {
  const [, ...parts] = readFileSync(`${DOCS}/index.md`, 'utf8').split('\n## ');
  return parts.map((part) => ({
    text: part.slice(0, part.indexOf('\n')),
    items: [...part.matchAll(/^- \[(.+?)\]\((.+?)\.md\)/gm)].map(([, text = '', page = '']) => ({
      text,
      link: `/${page}`,
    })),
  }));
};

/** The examples that pages link to are shown as pages of their own: scripts/stage-docs.mjs writes them. */
const shown = (href: string): string =>
  href
    .replace(/^examples\/(\w+)\.ts$/, 'reference/examples/$1.md')
    .replace(/^(?:\.\.\/)+examples\/(\w+)\/README\.md$/, 'reference/examples/$1.md');

export default defineConfig({
  title: 'Gribo',
  description: 'Declare once how stored entities map to transfer objects.',
  lang: 'en',
  srcDir: DOCS,
  outDir: fileURLToPath(new URL('../dist', import.meta.url)),
  cacheDir: fileURLToPath(new URL('../.cache', import.meta.url)),
  cleanUrls: false,
  // Links to the workbench lead to what is built beside these pages.
  ignoreDeadLinks: [/\/workbench\//],
  markdown: {
    config: (md) => {
      md.core.ruler.push('shown', ({ tokens }) => {
        for (const token of tokens.flatMap(({ children }) => children ?? [])) {
          const href = token.attrGet('href');
          if (token.type === 'link_open' && href !== null) token.attrSet('href', shown(href));
        }
      });
    },
  },
  themeConfig: {
    nav: [
      { text: 'Start', link: '/start' },
      { text: 'Reference', link: '/reference/' },
      { text: 'Try it', link: '/workbench/index.html', target: '_self' },
    ],
    sidebar: sections(),
    outline: [2, 3],
    search: { provider: 'local' },
  },
});
