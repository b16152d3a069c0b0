import { and, desc, eq, inArray } from 'drizzle-orm';
import { sameLanguage, type Word } from '#core/words';
import { database } from './db';
import { findItems, keyOf, type MediaRow } from './media';
import { heardKey } from './readings';
import { recognitions, transcripts, transcriptVersions } from './schema';

/** A text of an item whose language is known, without its words. */
interface TextLine {
  media: string;
  language: string;
  /** Where its words are; `shown` for the one that is shown. */
  at: 'shown' | { version: string } | { recogniser: string };
}

/** All texts of items whose language is known: of each the one that is shown first, then what somebody brought or corrected, then what was heard, the latest first. */
async function textsOf(items: readonly MediaRow[]): Promise<TextLine[]> {
  if (items.length === 0) return [];
  const ids = items.map(({ id }) => id);
  const [shown, kept, heard] = await Promise.all([
    database()
      .select({ media: transcripts.mediaId, language: transcripts.language })
      .from(transcripts)
      .where(inArray(transcripts.mediaId, ids)),
    database()
      .select({
        media: transcriptVersions.mediaId,
        language: transcriptVersions.language,
        version: transcriptVersions.id,
      })
      .from(transcriptVersions)
      .where(inArray(transcriptVersions.mediaId, ids))
      .orderBy(desc(transcriptVersions.createdAt)),
    database()
      .select({
        hash: recognitions.hash,
        parameters: recognitions.parameters,
        language: recognitions.language,
        recogniser: recognitions.recogniser,
      })
      .from(recognitions)
      .where(
        inArray(
          recognitions.hash,
          items.map(({ fileHash }) => fileHash),
        ),
      )
      .orderBy(desc(recognitions.createdAt)),
  ]);
  return items.flatMap((item): TextLine[] => {
    const { hash, parameters } = heardKey(keyOf(item));
    const line = (language: string | null, at: TextLine['at']) => (language ? [{ media: item.id, language, at }] : []);
    const own = shown.find(({ media }) => media === item.id);
    const byMachine = heard.filter((each) => each.hash === hash && each.parameters === parameters);
    return [
      ...(own ? line(own.language, 'shown') : []),
      ...kept.filter(({ media }) => media === item.id).flatMap(({ language, version }) => line(language, { version })),
      // What was heard last is shown where nobody brought or corrected anything.
      ...byMachine.flatMap(({ language, recogniser }, index) =>
        line(language, !own && index === 0 ? 'shown' : { recogniser }),
      ),
    ];
  });
}

const itemsOf = async (wanted: Iterable<string>): Promise<MediaRow[]> =>
  (await findItems([...new Set(wanted)])).filter((item) => item !== null);

/** The languages in which items have texts, shown or not, each once an item. */
export async function listTextLanguages(wanted: Iterable<string>): Promise<{ media: string; languages: string[] }[]> {
  const items = await itemsOf(wanted);
  const texts = await textsOf(items);
  return items.map(({ id }) => ({
    media: id,
    languages: [...new Set(texts.filter(({ media }) => media === id).map(({ language }) => language))],
  }));
}

/**
 * The words of items in another language than the one that is shown: the latest text in it. None where the shown text is in
 * that language itself.
 * @param language BCP 47; wherever it is spoken
 */
export async function loadSpokenIn(
  language: string,
  wanted: Iterable<string>,
): Promise<(media: string) => readonly Word[]> {
  const items = await itemsOf(wanted);
  const texts = (await textsOf(items)).filter((text) => sameLanguage(text.language, language));
  const found = new Map<string, readonly Word[]>();
  for (const item of items) {
    const own = texts.filter(({ media }) => media === item.id);
    if (own.length === 0 || own.some(({ at }) => at === 'shown')) continue;
    found.set(item.id, await wordsOf(item, own[0]!.at as Exclude<TextLine['at'], 'shown'>));
  }
  return (id) => found.get(id) ?? [];
}

async function wordsOf(item: MediaRow, at: Exclude<TextLine['at'], 'shown'>): Promise<Word[]> {
  const { hash, parameters } = heardKey(keyOf(item));
  const [row] =
    'version' in at
      ? await database()
          .select({ words: transcriptVersions.words })
          .from(transcriptVersions)
          .where(eq(transcriptVersions.id, at.version))
      : await database()
          .select({ words: recognitions.words })
          .from(recognitions)
          .where(
            and(
              eq(recognitions.hash, hash),
              eq(recognitions.parameters, parameters),
              eq(recognitions.recogniser, at.recogniser),
            ),
          );
  return row?.words ?? [];
}
