import { textOfJson, textOfRows } from '#core/words';

/** Larger ones are no texts of one recording. */
const mostBytes = 20e6;

/** Files that a text may come in; what is not one of these is read as plain text. */
export const textFiles = '.txt,.md,.docx,.srt,.vtt,.ass,.ssa,.json,.csv,.tsv,text/plain';

/** A text as it is brought in: its name says whether it has times. */
export interface ReadText {
  name: string;
  text: string;
}

/**
 * The text of a file that was chosen or dropped: of a document what stands in it, of Markdown what is read aloud, of a table and of JSON
 * without times the lines in it.
 * @throws Error with a sentence for people
 */
export async function readText(file: File): Promise<ReadText> {
  if (file.size > mostBytes) throw new Error(`“${file.name}” is too large for a text.`);
  const ending = /\.(\w+)$/.exec(file.name)?.[1]?.toLowerCase();
  const { name } = file;
  if (ending === 'docx') return { name, text: await documentText(file) };
  const text = await file.text();
  if (text.includes('\0'))
    throw new Error(`“${file.name}” is no text. Give a txt, md, docx, SRT, WebVTT, ASS, JSON or CSV file.`);
  if (ending === 'md') return { name, text: (await import('remove-markdown')).default(text) };
  if (ending === 'csv' || ending === 'tsv') return tableText(name, text);
  const plain = ending === 'json' ? textOfJson(text) : null;
  return plain === null ? { name, text } : { name: named(name, 'txt'), text: plain };
}

async function tableText(name: string, text: string): Promise<ReadText> {
  const { parse } = (await import('papaparse')).default;
  const found = textOfRows(parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: true }).data);
  if (!found) throw new Error(`There are no words in “${name}”. Give a table with a column for the text.`);
  return { name: named(name, found.hasTimes ? 'srt' : 'txt'), text: found.text };
}

/** The name with another ending: it says what the text is now, and a language before it goes on counting. */
const named = (name: string, ending: string) => name.replace(/\.\w+$/, `.${ending}`);

async function documentText(file: File): Promise<string> {
  const { extractRawText } = (await import('mammoth')).default;
  try {
    return (await extractRawText({ arrayBuffer: await file.arrayBuffer() })).value;
  } catch (cause) {
    throw new Error(`“${file.name}” could not be read as a document. Save it as text and bring that in.`, { cause });
  }
}
