/** Larger ones are no texts of one recording. */
const mostBytes = 20e6;

/** Files that a text may come in; what is not one of these is read as plain text. */
export const textFiles = '.txt,.md,.docx,.srt,.vtt,.ass,.ssa,.json,text/plain';

/**
 * The text of a file that was chosen or dropped: of a document what stands in it, of Markdown what is read aloud.
 * @throws Error with a sentence for people
 */
export async function textOf(file: File): Promise<string> {
  if (file.size > mostBytes) throw new Error(`“${file.name}” is too large for a text.`);
  const ending = /\.(\w+)$/.exec(file.name)?.[1]?.toLowerCase();
  if (ending === 'docx') return documentText(file);
  const text = await file.text();
  if (text.includes('\0'))
    throw new Error(`“${file.name}” is no text. Give a txt, md, docx, SRT, WebVTT, ASS or JSON file.`);
  return ending === 'md' ? (await import('remove-markdown')).default(text) : text;
}

async function documentText(file: File): Promise<string> {
  const { extractRawText } = (await import('mammoth')).default;
  try {
    return (await extractRawText({ arrayBuffer: await file.arrayBuffer() })).value;
  } catch (cause) {
    throw new Error(`“${file.name}” could not be read as a document. Save it as text and bring that in.`, { cause });
  }
}
