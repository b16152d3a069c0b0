/** The demo project: which of the shipped media it holds, and how they are grouped. */
export const demoProject = {
  id: '0b0a7000-0000-4000-8000-000000000001',
  name: 'Pond Regatta',
  bins: [
    { name: 'Race day', files: ['race-day.mp4', 'builder-camera-b.mp4', 'builder-voice.m4a'] },
    {
      name: 'Pieces',
      files: [
        'pan-over-the-pond.mp4',
        'zoom-on-the-crowd.mp4',
        'tripod-start-line.mp4',
        'walk-to-the-pier.mp4',
        'whip-to-the-captain.mp4',
        'captain-close.mp4',
        'child-laughs.mp4',
        'boats-cross-fast.mp4',
      ],
    },
    {
      name: 'Photos',
      files: [
        'photo-start.jpg',
        'photo-crew.jpg',
        'photo-captain.jpg',
        'photo-duel.jpg',
        'photo-builders.jpg',
        'photo-evening.jpg',
      ],
    },
    { name: 'Music', files: ['paper-sails.m4a', 'dry-shoes.m4a'] },
  ],
};

export const demoFiles = demoProject.bins.flatMap((bin) => bin.files);
