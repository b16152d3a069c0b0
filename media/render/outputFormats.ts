import { soundRate, type OutputFormat, type Quality } from '#core/reel';

const x264: Record<Quality, [crf: string, preset: string]> = {
  draft: ['27', 'ultrafast'],
  good: ['20', 'veryfast'],
  best: ['16', 'medium'],
};
const vp9: Record<Quality, [crf: string, speed: string]> = { draft: ['40', '8'], good: ['32', '5'], best: ['26', '3'] };

const encoders: Record<'mp4' | 'webm' | 'wav', readonly string[]> = {
  mp4: ['-c:a', 'aac', '-b:a', '192k'],
  webm: ['-c:a', 'libopus', '-b:a', '128k'],
  wav: ['-c:a', 'pcm_s16le'],
};

/** How the sound of a format is encoded, alone in the container of the format. */
export function soundEncoder(format: OutputFormat): readonly string[] {
  const kind = format === 'webm' || format === 'wav' ? format : 'mp4';
  return ['-ar', String(soundRate), ...encoders[kind], '-f', kind];
}

/** What x264 makes depends on how many threads it has: the same number everywhere, so that machines of any size make the same film. */
const encoderThreads = '6';

/** How the pictures of a format are encoded. MP4: H.264 High, yuv420p. WebM: VP9. */
export function pictureEncoder(format: Exclude<OutputFormat, 'wav'>, quality: Quality, fps: string): string[] {
  switch (format) {
    case 'mp4':
      return [
        '-c:v',
        'libx264',
        '-profile:v',
        'high',
        '-preset',
        x264[quality][1],
        '-crf',
        x264[quality][0],
        '-pix_fmt',
        'yuv420p',
        '-threads',
        encoderThreads,
        '-r',
        fps,
        '-f',
        'mp4',
      ];
    // Into MP4 first: Matroska would round the times of the frames to milliseconds before they are joined.
    case 'webm':
      return [
        '-c:v',
        'libvpx-vp9',
        '-crf',
        vp9[quality][0],
        '-b:v',
        '0',
        '-deadline',
        'good',
        '-cpu-used',
        vp9[quality][1],
        '-row-mt',
        '1',
        '-threads',
        '4',
        '-pix_fmt',
        'yuv420p',
        '-r',
        fps,
        '-f',
        'mp4',
      ];
    case 'gif':
      return ['-loop', '0', '-f', 'gif'];
    case 'png':
      return ['-frames:v', '1', '-c:v', 'png', '-f', 'image2', '-update', '1'];
  }
}

/** The container of a finished film; an MP4 has its index first. */
export const container = (format: 'mp4' | 'webm'): readonly string[] =>
  format === 'mp4' ? ['-movflags', '+faststart', '-f', 'mp4'] : ['-f', 'webm'];
