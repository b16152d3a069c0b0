import { writeFileSync } from 'node:fs';

/** Tokens of the multilingual vocabulary of 99 languages: text, then end and start, languages, tasks and times. */
const textTokens = 50_257;
const token = { end: 50_257, language: 50_259, begin: 50_364 };
const vocabulary = 51_865;
/** Width of every layer. */
const state = 64;
const context = { audio: 1500, text: 448 };
const mels = 80;
const fftBins = 201;

/** What a made model says in every window. */
export interface MadeSpeech {
  /** Number of the language in the list of the vocabulary; 2 is German. */
  language: number;
  /** Each with its leading space, or none to go on the word before; a number is a time in seconds, in steps of 0.02. */
  parts: readonly (string | number)[];
}

/**
 * Writes a speech model in the layout that whisper.cpp reads (ggml, magic 0x67676d6c): right header, vocabulary and tensors of
 * one layer each, but nothing was learned. Attention and networks are zero, so that what is said next hangs on the place alone:
 * the embedding of a place points to the token that follows, and the model says the same in every window, whatever is heard.
 */
export function writeWhisperModel(file: string, { language, parts }: MadeSpeech): void {
  const chunks: Buffer[] = [];
  const ints = (...values: number[]) => chunks.push(Buffer.from(Int32Array.from(values).buffer));
  const words = parts.filter((part) => typeof part === 'string');
  ints(0x67676d6c, vocabulary, context.audio, state, 1, 1, context.text, state, 1, 1, mels, 1);
  ints(mels, fftBins);
  chunks.push(Buffer.alloc(mels * fftBins * 4));
  ints(textTokens);
  const vocabularyBytes: Buffer[] = [];
  for (let id = 0; id < textTokens; id++) {
    // The runtime asks for the blank by its text.
    const text = Buffer.from(words[id] ?? (id === textTokens - 1 ? ' ' : `~${id}`));
    const length = Buffer.alloc(4);
    length.writeUInt32LE(text.length);
    vocabularyBytes.push(length, text);
  }
  chunks.push(Buffer.concat(vocabularyBytes));

  let seed = 1;
  const sign = () => ((seed = (Math.imul(seed, 1_664_525) + 1_013_904_223) >>> 0) & 0x40_00_00 ? 1 : -1);
  const embedding = Int8Array.from({ length: vocabulary * state }, sign);
  const tensor = (name: string, shape: number[], half: boolean, values?: (at: number) => number) => {
    const count = shape.reduce((product, each) => product * each, 1);
    ints(shape.length, name.length, half ? 1 : 0, ...shape);
    chunks.push(Buffer.from(name));
    if (!values) return void chunks.push(Buffer.alloc(count * (half ? 2 : 4)));
    // 1 and -1 as IEEE 754 of 16 bits.
    const data = half
      ? Uint16Array.from({ length: count }, (_, at) => (values(at) > 0 ? 0x3c00 : 0xbc00))
      : Float32Array.from({ length: count }, (_, at) => values(at));
    chunks.push(Buffer.from(data.buffer));
  };
  const norm = (name: string, scale = 0) => {
    tensor(`${name}.weight`, [state], false, () => scale);
    tensor(`${name}.bias`, [state], false);
  };
  const attention = (name: string) => {
    norm(`${name}_ln`);
    for (const part of ['query', 'key', 'value', 'out']) {
      tensor(`${name}.${part}.weight`, [state, state], true);
      if (part !== 'key') tensor(`${name}.${part}.bias`, [state], false);
    }
  };
  const block = (name: string, attentions: string[]) => {
    for (const each of attentions) attention(`${name}.${each}`);
    norm(`${name}.mlp_ln`);
    tensor(`${name}.mlp.0.weight`, [state, 4 * state], true);
    tensor(`${name}.mlp.0.bias`, [4 * state], false);
    tensor(`${name}.mlp.2.weight`, [4 * state, state], true);
    tensor(`${name}.mlp.2.bias`, [state], false);
  };
  tensor('encoder.positional_embedding', [state, context.audio], false);
  tensor('encoder.conv1.weight', [3, mels, state], true);
  tensor('encoder.conv1.bias', [1, state], false);
  tensor('encoder.conv2.weight', [3, state, state], true);
  tensor('encoder.conv2.bias', [1, state], false);
  norm('encoder.ln_post');
  block('encoder.blocks.0', ['attn']);

  let word = 0;
  const said = parts.map((part) => (typeof part === 'number' ? token.begin + Math.round(part / 0.02) : word++));
  // After the start stands the language, after it the task; what is said begins after that.
  const next = [token.language + language, token.end, ...said, token.end];
  const strength = 8;
  tensor('decoder.positional_embedding', [state, context.text], false, (at) => {
    const follows = next[Math.floor(at / state)] ?? token.end;
    return strength * embedding[follows * state + (at % state)]!;
  });
  tensor('decoder.token_embedding.weight', [state, vocabulary], true, (at) => embedding[at]!);
  norm('decoder.ln', 1);
  block('decoder.blocks.0', ['attn', 'cross_attn']);
  writeFileSync(file, Buffer.concat(chunks));
}
