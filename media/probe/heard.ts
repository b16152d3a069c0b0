import type { SoundChoice } from '#core/sound';

/** Keeps a track in step with the pictures where it begins late or has holes. */
const inStep = 'aresample=async=1:first_pts=0';

/**
 * What is heard of an input, as filters and the label that they end in. A whole track needs none.
 * @param name for labels; unique in the graph
 */
export function heardOf(input: number, choice: SoundChoice, name: string): { graph: string[]; label: string } {
  const source = ({ track }: SoundChoice[number]) => `[${input}:a:${track}]`;
  const [first] = choice;
  if (choice.length === 1 && first!.channel === null) return { graph: [], label: source(first!) };
  const parts = choice.map((pick, index) => {
    const alone = pick.channel === null ? '' : `,pan=mono|c0=c${pick.channel}`;
    return `${source(pick)}${inStep}${alone}[${name}${choice.length > 1 ? index : ''}]`;
  });
  return choice.length === 1
    ? { graph: parts, label: `[${name}]` }
    : {
        graph: [
          ...parts,
          `${choice.map((_, index) => `[${name}${index}]`).join('')}amix=inputs=${choice.length}:duration=longest:normalize=0[${name}]`,
        ],
        label: `[${name}]`,
      };
}

/** Arguments that make what is heard of the only input the sound of an output, in step with its pictures. */
export function heardAlone(choice: SoundChoice): string[] {
  const { graph, label } = heardOf(0, choice, 'heard');
  return ['-filter_complex', [...graph, `${label}${inStep}[sound]`].join(';'), '-map', '[sound]'];
}
