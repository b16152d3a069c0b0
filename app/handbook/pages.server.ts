import { Marked, type Tokens } from 'marked';

const texts: Record<string, string> = import.meta.glob(
  ['../../docs/handbook/*.md', '../../docs/{ask,formats,glossary,outlets}.md'],
  {
    query: '?raw',
    import: 'default',
    eager: true,
  },
);
const pictures: Record<string, string> = import.meta.glob('../../docs/screenshots/*.png', {
  query: '?url',
  import: 'default',
  eager: true,
});

const nameOf = (path: string): string => /([\w-]+)\.(?:md|png)$/.exec(path)?.[1] ?? '';
const byName = <T>(found: Record<string, T>): Map<string, T> =>
  new Map(Object.entries(found).map(([path, value]) => [nameOf(path), value]));
const pages = byName(texts);
const pictureOf = byName(pictures);

/** The page that tells what there is. */
const first = 'README';

/** Where a link of a page leads here: to another page, or as it stands. */
function address(href: string): string {
  const [path = '', part] = href.split('#');
  const name = nameOf(path);
  if (!path.endsWith('.md') || !pages.has(name)) return href;
  return `/handbook${name === first ? '' : `/${name}`}${part ? `#${part}` : ''}`;
}

const plainId = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');

const marked = new Marked({
  renderer: {
    heading({ tokens, depth, text }: Tokens.Heading) {
      return `<h${depth} id="${plainId(text)}">${this.parser.parseInline(tokens)}</h${depth}>`;
    },
    link({ href, tokens }: Tokens.Link) {
      return `<a href="${address(href)}">${this.parser.parseInline(tokens)}</a>`;
    },
    image({ href, text }: Tokens.Image) {
      return `<img src="${pictureOf.get(nameOf(href)) ?? href}" alt="${text.replaceAll('"', '&quot;')}" loading="lazy">`;
    },
  },
});

interface Page {
  title: string;
  html: string;
}

/** Pages as HTML, each made when it is first asked for. */
const made = new Map<string, Page>();

/** A page of the handbook as HTML, with its title; null when there is none of that name. The texts are our own. */
export function handbookPage(name: string | undefined): Page | null {
  const key = name ?? first;
  const text = pages.get(key);
  if (text === undefined || name === first) return null;
  const page = made.get(key) ?? {
    title: /^# (.*)$/m.exec(text)?.[1] ?? 'Handbook',
    html: marked.parse(text, { async: false }),
  };
  made.set(key, page);
  return page;
}

/** Every page, in the order in which the first one names them. */
export const handbookContents: readonly { name: string; title: string }[] = [
  ...(pages.get(first) ?? '').matchAll(/^\d+\. \[(.+?)\]\(([\w-]+)\.md\)/gm),
].map(([, title, name]) => ({ name: name!, title: title! }));
