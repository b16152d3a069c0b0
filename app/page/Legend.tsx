import { colours } from '../drawing/inks';

const entries: [string, string, React.ReactNode][] = [
  [
    'Faces',
    'a dot for each',
    <>
      <circle key="a" cx="6" cy="8" r="2" />
      <circle key="b" cx="13" cy="8" r="2" />
    </>,
  ],
  ['Speech', 'solid bars', <rect key="a" x="2" y="6" width="22" height="3" />],
  ['Motion', 'a filled hill', <path key="a" d="M1 14C8 14 9 4 14 4s6 10 11 10z" />],
  [
    'Camera',
    'a raised line; chevrons for a whip pan',
    <path key="a" d="M1 13l4-6h16l4 6" fill="none" strokeWidth="1.6" />,
  ],
  ['Shake', 'a zigzag', <path key="a" d="M1 12l4-8 4 8 4-8 4 8 4-8 4 8" fill="none" strokeWidth="1.6" />],
  [
    'Sound',
    'a thin waveform; silence is an open gap',
    <path key="a" d="M1 9h3l2-5 2 9 2-7 2 5 2-3 2 2h8" fill="none" strokeWidth="1.4" />,
  ],
];
const tints = [colours.faces, colours.speech, colours.motion, colours.camera, colours.shake, colours.sound];

/** What the band under every line shows. */
export function Legend() {
  return (
    <dl className="mx-4 mb-1 flex flex-wrap gap-x-5 gap-y-1 rounded-md bg-raised px-3 py-2 text-xs" aria-label="Legend">
      {entries.map(([name, shape, drawing], index) => (
        <div key={name} className="flex items-center gap-1.5">
          <svg width="26" height="16" fill={tints[index]} stroke={tints[index]} aria-hidden>
            {drawing}
          </svg>
          <dt>{name}</dt>
          <dd className="text-muted">{shape}</dd>
        </div>
      ))}
      <div className="flex items-center gap-1.5">
        <span className="h-[3px] w-6 bg-lamp" />
        <dt>Kept</dt>
        <dd className="text-muted">dashed when by hand</dd>
      </div>
    </dl>
  );
}
