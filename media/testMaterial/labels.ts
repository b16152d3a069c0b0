import { readFileSync, writeFileSync } from 'node:fs';
import { ffmpeg } from '../testMedia';
import { sine, stillFilm, tagged709, to709, x264, type MadeFile, type MediaTruth, type MadeIn } from './base';

const labelled = (
  name: string,
  file: string,
  make: (place: MadeIn) => unknown,
  truth: MediaTruth,
  seconds = 1.5,
): MadeFile => ({
  name,
  file,
  make: (place) => void make(place),
  looks: null,
  seconds,
  truth,
});

const camera =
  (file: string, rate: string, ...labels: string[]) =>
  (place: MadeIn) =>
    ffmpeg(...stillFilm(place, 1.5, rate), '-vf', to709, ...x264, ...tagged709, ...labels, place.at(file));

/** XMP of a movie (ISO 16684-3) in a box of its own behind everything else. */
function addXmp(file: string, packet: string): void {
  const content = Buffer.concat([Buffer.from('be7acfcb97a942e89c71999491e3afac', 'hex'), Buffer.from(packet)]);
  const head = Buffer.alloc(8);
  head.writeUInt32BE(8 + content.length, 0);
  head.write('uuid', 4, 'latin1');
  writeFileSync(file, Buffer.concat([readFileSync(file), head, content]));
}

const sound =
  (file: string, channels: readonly number[], ...encode: string[]) =>
  (place: MadeIn) =>
    ffmpeg(
      ...channels.flatMap((_, index) => ['-f', 'lavfi', '-i', `sine=${300 + 200 * index}:d=1.5`]),
      ...channels.flatMap((count, index) => ['-map', String(index), `-ac:${index}`, String(count)]),
      ...encode,
      place.at(file),
    );

/** Files whose time, reel or sound is what matters. */
export const labels: MadeFile[] = [
  labelled('timecode at 25', 'tc25.mov', camera('tc25.mov', '25', '-timecode', '10:20:30:12'), {
    startTimecode: '10:20:30:12',
    frameRate: 25,
  }),
  labelled('timecode at 29.97, drop-frame', 'tcdf.mov', camera('tcdf.mov', '30000/1001', '-timecode', '10:20:30;12'), {
    startTimecode: '10:20:30;12',
  }),
  labelled(
    'timecode at 29.97, all frames counted',
    'tcndf.mp4',
    camera('tcndf.mp4', '30000/1001', '-timecode', '01:00:00:00'),
    { startTimecode: '01:00:00:00' },
  ),
  labelled('timecode at 23.976', 'tc24.mov', camera('tc24.mov', '24000/1001', '-timecode', '23:59:58:23'), {
    startTimecode: '23:59:58:23',
  }),
  labelled('timecode at 59.94', 'tc60.mov', camera('tc60.mov', '60000/1001', '-timecode', '02:00:00;04'), {
    startTimecode: '02:00:00;04',
  }),
  labelled(
    'timecode in MXF',
    'card.mxf',
    (place) =>
      ffmpeg(
        ...stillFilm(place),
        '-vf',
        `scale=1280:720:out_color_matrix=bt709,format=yuv422p`,
        '-c:v',
        'mpeg2video',
        '-q:v',
        '3',
        '-timecode',
        '11:12:13:14',
        place.at('card.mxf'),
      ),
    { startTimecode: '11:12:13:14', width: 1280, height: 720 },
  ),
  labelled(
    'timecode in MPEG-2',
    'gop.mpg',
    (place) =>
      ffmpeg(
        ...stillFilm(place),
        '-vf',
        `scale=720:576,setsar=64/45,format=yuv420p`,
        '-c:v',
        'mpeg2video',
        '-q:v',
        '3',
        '-timecode',
        '09:08:07:06',
        place.at('gop.mpg'),
      ),
    { startTimecode: '09:08:07:06' },
  ),
  labelled(
    'timecode and tape in XMP',
    'xmp.mp4',
    (place) => {
      camera('xmp.mp4', '25')(place);
      addXmp(
        place.at('xmp.mp4'),
        '<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description xmlns:xmpDM="http://ns.adobe.com/xmp/1.0/DynamicMedia/" xmpDM:tapeName="POND7"><xmpDM:startTimecode xmpDM:timeFormat="25Timecode" xmpDM:timeValue="14:15:16:17"/></rdf:Description></rdf:RDF></x:xmpmeta>',
      );
    },
    { startTimecode: '14:15:16:17', reelName: 'POND7' },
  ),
  labelled(
    'reel name in a timecode track',
    'reel.mov',
    camera('reel.mov', '25', '-timecode', '10:00:00:00', '-metadata:s:v:0', 'reel_name=POND12'),
    { startTimecode: '10:00:00:00', reelName: 'POND12' },
  ),
  labelled(
    'when it was filmed',
    'filmed.mov',
    camera('filmed.mov', '25', '-metadata', 'creation_time=2026-07-11T10:20:30Z'),
    { recordedAt: '2026-07-11T10:20:30Z', startTimecode: null },
  ),
  labelled(
    'when and where the clock stood',
    'phone.mov',
    camera(
      'phone.mov',
      '25',
      '-movflags',
      'use_metadata_tags',
      '-metadata',
      'com.apple.quicktime.creationdate=2026-07-11T12:20:30+0200',
    ),
    { recordedAt: '2026-07-11T12:20:30+02:00' },
  ),
  labelled(
    'a clock that was never set',
    'unset.mov',
    camera('unset.mov', '25', '-metadata', 'creation_time=1904-01-01T00:00:00Z'),
    { recordedAt: null },
  ),
  labelled(
    'two tracks of sound',
    'two.mp4',
    (place) =>
      ffmpeg(
        ...stillFilm(place),
        ...sine(),
        ...sine(),
        '-map',
        '0',
        '-map',
        '1',
        '-map',
        '2',
        '-ac:2',
        '2',
        '-vf',
        to709,
        ...x264,
        ...tagged709,
        place.at('two.mp4'),
      ),
    { soundTracks: [{ channels: 1 }, { channels: 2 }] },
  ),
  labelled(
    '5.1',
    'surround.mp4',
    (place) =>
      ffmpeg(...stillFilm(place), ...sine(), '-vf', to709, ...x264, ...tagged709, '-ac', '6', place.at('surround.mp4')),
    { soundTracks: [{ channels: 6 }] },
  ),
  labelled('four channels of a recorder, 24 bits', 'recorder.wav', sound('recorder.wav', [4], '-c:a', 'pcm_s24le'), {
    soundTracks: [{ channels: 4 }],
    width: 0,
    codec: 'pcm_s24le',
  }),
  labelled('mono at 8 kHz', 'phone.wav', sound('phone.wav', [1], '-ar', '8000'), { soundTracks: [{ channels: 1 }] }),
  labelled('floats', 'float.wav', sound('float.wav', [2], '-c:a', 'pcm_f32le'), {
    soundTracks: [{ channels: 2 }],
    codec: 'pcm_f32le',
  }),
  labelled(
    'a broadcast wave with its time',
    'bwf.wav',
    sound(
      'bwf.wav',
      [1],
      '-ar',
      '48000',
      '-write_bext',
      '1',
      '-metadata',
      'time_reference=1786464000',
      '-metadata',
      'origination_date=2026-07-11',
      '-metadata',
      'origination_time=10:20:18',
    ),
    { recordedAt: '2026-07-11T10:20:18' },
  ),
];
