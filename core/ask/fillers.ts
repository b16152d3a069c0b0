const split = (text: string) => text.split(/\s+/).filter(Boolean);

/** Words that only hold a request together; nothing is said of them. */
const joints = split(`
  a an the of in on at is are was were be been being am to for from by into onto over it its it's that that's this these
  those which who whom whose there there's their them they they're he she his her him we us our you your i me my and
  has have had having do does did where when while as up so than then if not with
`);

/** Words of asking, and words for footage in general: passed over, and said to be. */
const asking = split(`
  show shows find finds give get gets getting see look looking search searching need want wants would like could can
  please let let's compile collect gather assemble make making pull bring list select choose take put cut
  together watch play tell find what what's how why all any some every each everything anything something somewhere
  anywhere only just very really quite bit bits kind sort also too well right shortly directly much
  shot shots moment moments clip clips footage scene scenes stretch stretches picture pictures video videos film films
  recording recordings part parts piece pieces section sections material place places time times thing things stuff
  camera sound going goes go happens happening happen seen visible appears appear appearing featuring contains
  containing including includes during doing frame frames screen view views bin bins file files folder called named
  about person's ones one's marker
`);

/** Words that mean nothing by themselves. */
export const fillers: ReadonlySet<string> = new Set([...joints, ...asking]);
/** Those that a person should know were passed over. */
export const askingWords: ReadonlySet<string> = new Set(asking);

/** Words for pieces of footage: a number before them says how many are wanted. */
export const pieceWords: ReadonlySet<string> = new Set(
  split('shots moments clips scenes stretches videos films parts pieces sections shot moment clip scene stretch hits'),
);

const numbers = split('no one two three four five six seven eight nine ten eleven twelve');
const largerNumbers: Record<string, number> = { fifteen: 15, twenty: 20, thirty: 30, forty: 40, sixty: 60 };
const shares: Record<string, number> = { half: 0.5, couple: 2 };

/** "two" or "2"; null when it is no number. */
export function numberOf(word: string): number | null {
  if (/^\d+(\.\d+)?$/.test(word)) return Number(word);
  const at = numbers.indexOf(word);
  return at > 0 ? at : (largerNumbers[word] ?? shares[word] ?? null);
}
