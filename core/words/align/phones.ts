/**
 * Sounds of the International Phonetic Alphabet (2005) as the 39 of the CMU dictionary; those that English does not have as the nearest of them in
 * place and manner. Longer ones stand for themselves before their parts.
 */
const nearest: Record<string, string> = {
  // diphthongs, affricates and syllabic consonants
  aɪə: 'AY AH',
  aɪɚ: 'AY ER',
  aɪ: 'AY',
  ai: 'AY',
  ɑɪ: 'AY',
  aʊ: 'AW',
  au: 'AW',
  eɪ: 'EY',
  ei: 'EY',
  ɛɪ: 'EY',
  oʊ: 'OW',
  əʊ: 'OW',
  ou: 'OW',
  ɔɪ: 'OY',
  ɔø: 'OY',
  ɔʏ: 'OY',
  oi: 'OY',
  oɪ: 'OY',
  œy: 'OY',
  ɪɹ: 'IH R',
  ɛɹ: 'EH R',
  ɔɹ: 'AO R',
  ʊɹ: 'UH R',
  ʊə: 'UH R',
  ɪə: 'IH R',
  eə: 'EH R',
  tʃ: 'CH',
  tɕ: 'CH',
  dʒ: 'JH',
  dʑ: 'JH',
  ts: 'T S',
  dz: 'D Z',
  pf: 'P F',
  əl: 'AH L',
  ən: 'AH N',
  əm: 'AH M',
  // vowels
  a: 'AA',
  ɑ: 'AA',
  ɒ: 'AA',
  æ: 'AE',
  ɐ: 'AH',
  ʌ: 'AH',
  ə: 'AH',
  ɘ: 'AH',
  ɵ: 'UH',
  ɜ: 'ER',
  ɝ: 'ER',
  ɚ: 'ER',
  ɞ: 'ER',
  e: 'EY',
  ɛ: 'EH',
  ɪ: 'IH',
  i: 'IY',
  ɨ: 'IH',
  ᵻ: 'IH',
  y: 'IY',
  ʏ: 'IH',
  ø: 'ER',
  œ: 'ER',
  ɶ: 'AE',
  o: 'OW',
  ɔ: 'AO',
  ʊ: 'UH',
  u: 'UW',
  ʉ: 'UW',
  ɯ: 'UW',
  ɤ: 'UH',
  // consonants
  p: 'P',
  b: 'B',
  t: 'T',
  d: 'D',
  ʈ: 'T',
  ɖ: 'D',
  c: 'K',
  ɟ: 'G',
  k: 'K',
  ɡ: 'G',
  g: 'G',
  q: 'K',
  ɢ: 'G',
  ʔ: '',
  m: 'M',
  ɱ: 'M',
  n: 'N',
  ɳ: 'N',
  ɲ: 'N Y',
  ŋ: 'NG',
  ɴ: 'NG',
  r: 'R',
  ɹ: 'R',
  ɻ: 'R',
  ʀ: 'R',
  ʁ: 'R',
  ɾ: 'D',
  ɽ: 'D',
  ɺ: 'L',
  ɸ: 'F',
  β: 'V',
  f: 'F',
  v: 'V',
  θ: 'TH',
  ð: 'DH',
  s: 'S',
  z: 'Z',
  ʃ: 'SH',
  ʒ: 'ZH',
  ʂ: 'SH',
  ʐ: 'ZH',
  ɕ: 'SH',
  ʑ: 'ZH',
  ç: 'SH',
  ʝ: 'Y',
  x: 'HH',
  ɣ: 'G',
  χ: 'HH',
  ħ: 'HH',
  ʕ: '',
  h: 'HH',
  ɦ: 'HH',
  ɬ: 'L',
  ɮ: 'L',
  ʋ: 'V',
  j: 'Y',
  ɰ: 'W',
  l: 'L',
  ɫ: 'L',
  ɭ: 'L',
  ʎ: 'L Y',
  ʟ: 'L',
  w: 'W',
  ʍ: 'W',
  ɥ: 'W',
  // palatalised, as a sound with a glide; nasal, with its consonant
  ʲ: 'Y',
  '\u0303': 'N',
};
const longest = Math.max(...Object.keys(nearest).map((sound) => sound.length));

/** Stress, length, ties, syllables and other signs that no sound of its own stands behind. */
const signs = /[ˈˌːˑ.‿͡‖|_\s\u0300-\u0302\u0304-\u036fʰʷˠˤ˞]/gu;

/**
 * A pronunciation in the phones of the CMU dictionary, without stress.
 * @param ipa as a speech synthesiser writes it
 * @returns empty when nothing of it is known
 */
export function arpabetOf(ipa: string): string[] {
  const plain = ipa
    .normalize('NFD')
    .replace(/c\u0327/g, 'ç')
    .replace(/\([^)]*\)/g, '')
    .replace(signs, '');
  const phones: string[] = [];
  for (let at = 0; at < plain.length;) {
    let length = Math.min(longest, plain.length - at);
    while (length > 0 && nearest[plain.slice(at, at + length)] === undefined) length--;
    if (length > 0) phones.push(...nearest[plain.slice(at, at + length)]!.split(' ').filter(Boolean));
    at += Math.max(1, length);
  }
  return phones;
}
