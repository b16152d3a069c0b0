/** What draws in, in the first sentence of a short. */
export interface Hook {
  kind: 'question' | 'statement' | 'number' | 'address' | 'reaction' | 'action' | 'none';
  /** 0 to 1. */
  strength: number;
}

/** Words with which a question begins where the text has no marks. */
const asks = /^(who|what|when|where|why|how|which|do|does|did|can|could|would|will|is|are|was|were|have|has|should)\b/i;
/** All, nothing, most, first: what is said without ifs. */
const absolute =
  /\b(never|nobody|no one|none|nothing|nowhere|everybody|everyone|everything|always|only|ever|all|must|cannot|impossible|simple|secret|truth|rule|mistake|wrong|regret|first|last|best|worst|most|biggest|smallest|fastest|hardest|easiest)\b/gi;
const feeling =
  /\b(love|hate|afraid|amazing|terrible|beautiful|beautifully|incredible|ridiculous|crazy|proud|sank|sinks|sink|lost|lose|won|win|down|off|look)\b/gi;
const figures =
  /\b(\d+|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|twenty|hundred|thousand|million|twice|double|doubled)\b/i;
const addressed = /\b(you|your|yourself)\b/i;
/** A first word that leans on what was said before. */
export const leansBack =
  /^(and|but|so|or|because|then|that|this|these|those|it|he|she|they|him|her|them|also|too|which|therefore|however|anyway)\b/i;

/**
 * How strong a sentence is as a beginning. Rules of thumb of the trade; common practice, no source.
 * @param text with marks in the place of doubtful words
 */
export function sentenceHook(text: string): Hook {
  const plain = text.trim();
  const words = plain.split(/\s+/).length;
  if (/\?["'”’)]*$/.test(plain) || (!/[.!…]["'”’)]*$/.test(plain) && asks.test(plain) && words <= 16))
    return { kind: 'question', strength: words <= 14 ? 0.95 : 0.8 };
  const strong = (plain.match(absolute) ?? []).length;
  const felt = (plain.match(feeling) ?? []).length;
  const shout = /!["'”’)]*$/.test(plain) ? 1 : 0;
  const candidates: Hook[] = [
    {
      kind: 'statement',
      strength: strong + felt + shout > 0 ? Math.min(0.95, 0.4 + 0.17 * strong + 0.1 * felt + 0.2 * shout) : 0,
    },
    { kind: 'number', strength: figures.test(plain) ? 0.45 : 0 },
    { kind: 'address', strength: addressed.test(plain) ? 0.42 : 0 },
  ];
  const best = candidates.reduce((most, each) => (each.strength > most.strength ? each : most));
  if (best.strength === 0) return { kind: 'none', strength: words <= 9 ? 0.25 : 0.15 };
  // Several reasons at once, and a short sentence, are stronger.
  const more = candidates.filter((each) => each !== best && each.strength > 0).length * 0.08;
  return {
    kind: best.kind,
    strength: Math.min(1, best.strength + more + (words <= 8 ? 0.1 : 0) - (leansBack.test(plain) ? 0.2 : 0)),
  };
}
