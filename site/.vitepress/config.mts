import { readFileSync } from 'node:fs';
import { type DefaultTheme, defineConfig } from 'vitepress';

/** The pages, in the order of docs/index.md: what stands there stands at the side. */
const sections = (): DefaultTheme.SidebarItem[] => {
  const [, ...parts] = readFileSync('pages/index.md', 'utf8').split('\n## ');
  return parts.map((part) => ({
    text: part.slice(0, part.indexOf('\n')),
    items: [...part.matchAll(/^- \[(.+?)\]\((.+?)\.md\)/gm)].map(([, text = '', page = '']) => ({
      text,
      link: `/${page}`,
    })),
  }));
};

export default defineConfig({
  title: 'Gribo',
  description: 'Declare once how stored entities map to transfer objects.',
  lang: 'en',
  head: [['link', { rel: 'icon', type: 'image/svg+xml', href: '/icon.svg' }]],
  srcDir: 'pages',
  outDir: 'dist',
  // The workbench is put beside the pages when they are built.
  ignoreDeadLinks: [/^\/workbench\//],
  markdown: { theme: { light: 'github-light-high-contrast', dark: 'github-dark-high-contrast' } },
  themeConfig: {
    nav: [
      { text: 'Start', link: '/start' },
      { text: 'Reference', link: '/reference/' },
      { text: 'Try it', link: '/workbench/index.html', target: '_self' },
    ],
    sidebar: sections(),
    outline: [2, 3],
    search: {
      provider: 'local',
      options: {
        miniSearch: {
          // Codes such as ROW_NULL are one word; guides come before the reference.
          options: { tokenize: (text) => text.split(/[^\p{L}\p{N}_]+/u) },
          searchOptions: { boostDocument: (id: string) => (id.startsWith('/reference/') ? 0.5 : 1) },
        },
      },
    },
  },
});
