import { open, type FileHandle } from 'node:fs/promises';
import { MediaError } from '../../process';

/** What the file of a speech model says about itself. */
export interface ModelFacts {
  /** Of the family, by its layers; null for one that is of no known size. */
  size: 'tiny' | 'base' | 'small' | 'medium' | 'large' | null;
  /** How its numbers are stored, such as "f16" or "q5_0". */
  precision: string;
  /** BCP 47 tags of what it hears. */
  languages: string[];
}

/** The languages of the multilingual vocabulary, in the order of its tokens (whisper.cpp, `g_lang`). */
const languages =
  'en zh de es ru ko fr ja pt tr pl ca nl ar sv it id hi fi vi he uk el ms cs ro da hu ta no th ur hr bg lt la mi ml cy sk te fa lv bn sr az sl kn et mk br eu is hy ne mn bs kk sq sw gl mr pa si km sn yo so af oc ka be tg sd gu am yi lo uz fo ht ps tk nn mt sa lb my bo tl mg as tt haw ln ha ba jv su yue'.split(
    ' ',
  );
/** Tokens of a vocabulary of one language, and of one with many beside these. */
const tokens = { ofOne: 51_864, besideLanguages: 51_766 };
const magic = 0x67676d6c;
const sizes = new Map([
  [4, 'tiny'],
  [6, 'base'],
  [12, 'small'],
  [24, 'medium'],
  [32, 'large'],
] as const);
/** Of each way to store numbers (ggml.h, `ggml_type`): its name, so many numbers in a block, and the bytes of one. */
const stored = new Map<number, [name: string, numbers: number, bytes: number]>([
  [0, ['f32', 1, 4]],
  [1, ['f16', 1, 2]],
  [2, ['q4_0', 32, 18]],
  [3, ['q4_1', 32, 20]],
  [6, ['q5_0', 32, 22]],
  [7, ['q5_1', 32, 24]],
  [8, ['q8_0', 32, 34]],
  [10, ['q2_k', 256, 84]],
  [11, ['q3_k', 256, 110]],
  [12, ['q4_k', 256, 144]],
  [13, ['q5_k', 256, 176]],
  [14, ['q6_k', 256, 210]],
]);

const noModel = 'This is no speech model in the manner of whisper.cpp (“ggml-….bin”).';
const notWhole = 'The speech model is not whole. Copy it again.';

/**
 * Reads the file of a speech model in the layout of whisper.cpp (magic 0x67676d6c, header, filters, vocabulary, tensors) from
 * its beginning to its end, without what was learned.
 * @throws MediaError when it is something else, or ends early
 */
export async function readModelFile(path: string): Promise<ModelFacts> {
  const handle = await open(path).catch((error: unknown) => {
    throw new MediaError('The speech model is not there any more.', { cause: error });
  });
  try {
    const reader = new Reader(handle, (await handle.stat()).size);
    if ((await reader.int().catch(() => 0)) !== magic) throw new MediaError(noModel);
    return await facts(reader);
  } finally {
    await handle.close();
  }
}

async function facts(reader: Reader): Promise<ModelFacts> {
  const [vocabulary, , width, , audioLayers, , , , textLayers, mels] = await reader.ints(11);
  if (!width || ![80, 128].includes(mels!) || vocabulary! < 50_257) throw new MediaError(noModel);
  const [bands, bins] = await reader.ints(2);
  reader.skip(bands! * bins! * 4);
  const words = await reader.int();
  if (words > vocabulary!) throw new MediaError(noModel);
  for (let word = 0; word < words; word++) reader.skip(await reader.int());
  const precisions = new Map<string, number>();
  let tensors = 0;
  for (; reader.left > 0; tensors++) {
    const [dimensions, nameLength, type] = await reader.ints(3);
    const kind = stored.get(type!);
    if (!kind || dimensions! < 1 || dimensions! > 4) throw new MediaError(noModel);
    const count = (await reader.ints(dimensions!)).reduce((product, each) => product * each, 1);
    const [precision, numbers, bytes] = kind;
    reader.skip(nameLength! + (count / numbers) * bytes);
    precisions.set(precision, (precisions.get(precision) ?? 0) + count);
  }
  // Encoder and decoder begin and end with 7 and 4 tensors; their layers have 15 and 24.
  if (reader.left < 0 || tensors !== 11 + 15 * audioLayers! + 24 * textLayers!) throw new MediaError(notWhole);
  const [precision] = [...precisions].reduce((most, each) => (each[1] > most[1] ? each : most));
  return {
    size: sizes.get(audioLayers as 4) ?? null,
    precision,
    languages: vocabulary! > tokens.ofOne ? languages.slice(0, vocabulary! - tokens.besideLanguages) : ['en'],
  };
}

/** Reads whole numbers of 32 bits one after the other, a piece of the file at a time. */
class Reader {
  private at = 0;
  private piece = Buffer.alloc(0);
  private pieceAt = 0;

  constructor(
    private readonly handle: FileHandle,
    private readonly bytes: number,
  ) {}

  /** So many bytes are not read or skipped yet; fewer than none when more were skipped than there are. */
  get left(): number {
    return this.bytes - this.at;
  }

  skip(bytes: number): void {
    this.at += bytes;
  }

  async int(): Promise<number> {
    if (this.left < 4) throw new MediaError(notWhole);
    const from = this.at - this.pieceAt;
    if (from < 0 || from + 4 > this.piece.length) {
      const { buffer, bytesRead } = await this.handle.read(Buffer.alloc(1 << 16), 0, 1 << 16, this.at);
      this.piece = buffer.subarray(0, bytesRead);
      this.pieceAt = this.at;
    }
    const value = this.piece.readInt32LE(this.at - this.pieceAt);
    this.at += 4;
    return value;
  }

  async ints(count: number): Promise<number[]> {
    const values: number[] = [];
    for (let index = 0; index < count; index++) values.push(await this.int());
    return values;
  }
}
