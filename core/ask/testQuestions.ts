/**
 * Questions as people put them, about the day of `testDay.ts`, each with the stretches that a person would want to see:
 * "race 10-20" is the file and seconds in it. Written down before they were first tried; invented, no source.
 */
export const questions: readonly (readonly [expected: string, asked: readonly string[]])[] = [
  // What is seen.
  [
    'race 0-10, race 20-30, race 30-40, race 50-60, race 110-120, boat',
    ['boats', 'show me all the boats', 'compile all the scenes with boats', 'every shot of a boat please', 'ships'],
  ],
  ['race 90-100', ['dog', 'where is the dog', 'find the puppy', 'give me the clip with the dog in it', 'any dogs?']],
  ['morning 5-25', ['birds', 'ducks', 'all moments with a duck', 'can you find some birds', 'collect the bird shots']],
  [
    'builders 10-20',
    ['scissors', 'someone using scissors', 'look for the scissors', 'scisors', 'the shots with scissors'],
  ],
  ['prize 14-22', ['cup', 'the cup', 'i need the cup', 'show the mug', 'where can I see a cup']],
  ['builders 60-90', ['chair', 'chairs', 'an empty chair', 'clips containing a chair', 'armchair']],
  ['race 30-40, boat', ['boats close up', 'close boats', 'close-ups of boats', 'a boat, close', 'boat in close up']],
  [
    'race 0-10, race 110-120',
    [
      'wide boats nobody',
      'wide shots of boats, calm',
      'boats far away and calm',
      'distant boats, peaceful',
      'calm wide boats',
    ],
  ],
  ['race 0-10', ['three boats', 'at least three boats', 'three ships', '3 boats or more', 'shots with 3 boats']],
  [
    'race 0-10, race 20-30, race 30-40',
    ['two boats or more', 'at least two boats', '2 boats or more', 'more than one boat', 'at least 2 ships'],
  ],
  // Faces.
  [
    'race 0-10, race 20-40, race 50-60, race 75-100, race 110-120, builders 60-90, morning 0-40, boat',
    ['nobody', 'no people', 'without people', 'no one in the picture', 'shots without anybody'],
  ],
  ['race 60-75', ['two people', 'two faces', 'exactly two people', 'just two faces', 'clips of 2 people']],
  [
    'race 40-50, prize 0-20, group',
    ['crowd', 'the crowd', 'spectators', 'at least four people', 'more than three faces'],
  ],
  [
    'race 40-50, builders 30-60, prize 0-40, group',
    ['group', 'everyone', 'everybody', 'three people or more', 'at least 3 faces'],
  ],
  [
    'race 10-20, race 100-110, builders 0-30, prize 40-60',
    ['alone', 'one person', 'somebody alone', 'exactly one face', 'just one person'],
  ],
  [
    'race 10-20, race 40-50, race 60-75, race 100-110, builders 0-60, prize 0-60, group',
    ['somebody', 'someone', 'anybody', 'somone', 'a person'],
  ],
  [
    'race 42-47, race 102-107, builders 50-55, prize 45-50, group',
    ['smiling', 'laughing', 'happy faces', 'people who laugh', 'somebody giggling'],
  ],
  [
    'race 42-47, builders 50-55, group',
    ['everyone laughing', 'everybody is smiling', 'smiling crowd or smiling group', 'group smiling', 'all laughing'],
  ],
  [
    'race 102-107',
    [
      'one person laughing in race day',
      'otto laughing, alone',
      'otto smiles and nobody else',
      'Otto laughs, just one face',
      'just one face laughing, close, quiet',
    ],
  ],
  // People.
  [
    'race 10-20, race 60-75, builders 0-60',
    ['Willa', 'willa', 'all clips with Willa', 'where is Willa?', 'everything with wila'],
  ],
  ['race 60-75, race 100-110, builders 30-60', ['Otto', 'shots of Otto', "Otto's scenes", 'give me otto', 'ottto']],
  [
    'race 60-75, builders 30-60',
    ['Otto and Willa', 'Willa with Otto', 'both Willa and Otto', 'Otto together with Willa', 'Willa, Otto'],
  ],
  [
    'race 100-110',
    ['Otto without Willa', 'otto but not willa', 'Otto, no Willa', 'only Otto and never Willa', 'Otto except Willa'],
  ],
  [
    'race 10-20, race 60-75, race 100-110, builders 0-60',
    ['Otto or Willa', 'Willa or Otto', 'clips of Otto or of Willa', '(Otto or Willa)', 'either Otto or Willa'],
  ],
  [
    'builders 30-60, prize 40-60',
    ['Tove', 'find Tove', 'the scenes where Tove appears', 'tove please', 'every moment of Tove'],
  ],
  [
    'prize 45-50',
    [
      'Tove smiling in the evening',
      'Tove, close, smiling',
      'tove laughing close up',
      'a close-up of Tove who smiles',
      'Tove smile close',
    ],
  ],
  [
    'race 11-18, race 62-66, race 68-71, builders 5-9, builders 15-18, builders 35-50',
    ['Willa talking', 'Willa speaks', 'when does Willa talk', 'talk of Willa', 'Willa speaking'],
  ],
  // What is said.
  [
    'race 62-66',
    [
      'water',
      'what did they say about the water',
      'who mentions water',
      '"taking on water"',
      'what did the captain say about the water',
    ],
  ],
  [
    'builders 5-9',
    ['"never fold"', 'says never fold it', 'where someone says cardboard', 'talk about cardboard', 'cardbord'],
  ],
  ['builders 36-39', ['"paddle low"', 'hold the paddle', 'paddle', 'paddles', 'what do they say about the paddle']],
  ['race 68-71', ['"nobody sinks"', 'says sinks', 'who said sinks today', 'sinking', 'speaks about sinking']],
  ['builders 15-18', ['tape', 'plenty of tape', '"use plenty of tape"', 'mentions tape', 'the word tape']],
  ['prize 41-43', ['"thank you"', 'says thank', 'thank you all', 'saying thanks', 'thanks']],
  [
    'prize 13-18',
    ['wins the cup', '"the blue boat"', 'says captain', 'somebody says wins', 'what was said about the captain'],
  ],
  ['race 11-18', ['"good morning"', 'says good morning', 'says twelve', '"twelve boats"', 'everyone we have']],
  [
    'race 11-18, race 62-66, race 68-71, builders 5-9, builders 15-18, builders 35-50, prize 13-18, prize 41-43',
    ['talk', 'people talking', 'speech', 'somebody speaks', 'interview'],
  ],
  // Sound.
  [
    'race 36-39, race 42-46, builders 50-55, prize 8-12',
    ['cheering', 'applause', 'clapping', 'cheers', 'when they cheered'],
  ],
  [
    'race 42-46',
    [
      'crowd cheering in the race',
      'the crowd cheers before the boat sinks',
      'cheering crowd, not prize giving',
      'cheering, six faces',
      '6 people, cheering',
    ],
  ],
  ['race 80-90, builders 70-90', ['silence', 'silent', 'it is silent', 'silence please', 'shots with silence']],
  ['race 108-120, prize 20-40', ['music', 'song', 'with music', 'where music plays', 'any songs']],
  [
    'race 0-10, race 80-90, race 100-110, builders 70-90, morning 0-40',
    ['quiet', 'quiet moments', 'something quiet', 'where is it quiet', 'the quiet bits'],
  ],
  // Camera and picture.
  ['race 20-30', ['pan left', 'panning left', 'a pan to the left', 'boats, pan left', 'camera panning left']],
  ['race 20-30, morning 26-34', ['pan', 'pans', 'panning', 'all the pans', 'pan left or pan right']],
  ['race 75-80', ['whip pan', 'whip', 'whip pans', 'find a whip pan', 'the whip']],
  ['race 90-100', ['zoom in', 'zooming in', 'zoom', 'zoom in on the dog', 'camera zooms']],
  ['race 50-60', ['shaky', 'shaking camera', 'wobbly', 'the shaky part', 'boats, shaky']],
  ['race 54-58', ['blurred', 'out of focus', 'blurry', 'blured', 'shaky and out of focus']],
  ['race 80-90, prize 20-40', ['dark', 'dark scenes', 'night', 'too dark', 'where it is dark']],
  ['morning 0-40', ['sunny', 'bright', 'well lit', 'bright shots', 'birds or bright']],
  ['race 30-40', ['fast', 'action', 'quick', 'fast boats', 'much motion']],
  ['race 0-10, race 110-120, morning 0-40', ['calm', 'peaceful', 'calm moments', 'something peaceful', 'tranquil']],
  ['race 0-10, builders 60-90', ['still camera', 'tripod', 'static', 'locked off', 'tripod shots']],
  // Time and place.
  [
    'morning 0-40, race 0-60',
    ['first 100 seconds', 'in the first 100 seconds', 'before 1:40', 'the first 100 s', 'until 1:40'],
  ],
  [
    'prize 40-60, group, boat',
    ['last 28 seconds', 'the last 28 seconds', 'in the last 28 s', 'during the last 28 seconds', 'last 28 sec'],
  ],
  ['race 50-60', ['shaky after 1:20', 'shaky, not in the first minute', 'boat shaky']],
  ['race 52-60', ['boats after the boat sinks marker and before 1:42', 'boats between boat sinks and 1:42']],
  ['race 30-34', ['at 10:00:30', '10:00:30', 'timecode 10:00:30', 'at 10:00:30:00', 'shots at 10:00:30']],
  [
    'race 0-120, morning 0-40, prize 0-60, group, boat',
    ['13 June', 'June 13', '2026-06-13', 'Saturday', 'on saturday the 13th of June 2026'],
  ],
  ['builders 0-90', ['Friday', 'on Friday', '12 June 2026', 'bin workshop', 'in the afternoon']],
  ['prize 0-60', ['in the evening', 'prize giving', 'named prize giving', 'saturday evening', 'the prize giving film']],
  ['group, boat', ['photos', 'all photos', 'photographs', 'IMG', 'snapshots']],
  ['group', ['photo with people', 'photos of people', 'IMG_2034', 'photos without boats', 'group photo']],
  // Beside something.
  [
    'race 26-52',
    [
      'within nothing, near cheering in race day and before 1:32',
      'near cheering, race day, before 1:32',
      'around cheering, race, before 1:32',
      'beside cheering, in race, before 1:32',
      'close to cheering, race, before 1:32',
    ],
  ],
  [
    'race 65-75',
    [
      'before the whip pan',
      'before a whip pan',
      'right before the whip pan',
      'just before whip',
      'shortly before the whip pan',
    ],
  ],
  [
    'race 80-90',
    [
      'after the whip pan',
      'after a whip pan',
      'right after the whip pan',
      'following the whip pan',
      'dark after the whip pan',
    ],
  ],
  // Which of them.
  [
    'builders 35-50',
    ['longest talk', 'the longest talk', 'longest speech', 'the longest interview', 'longest bit of talking'],
  ],
  ['morning 0-40', ['the brightest', 'brightest shot', 'brightest moment', 'the brightest of all', 'brightest']],
  [
    'race 40-50',
    [
      'most people',
      'the most faces',
      'most people in the picture',
      'the crowd with most people',
      'greatest number of faces',
    ],
  ],
  ['race 11-18', ['the first talk', 'first speech', 'first talking', 'first time somebody talks', 'earliest talk']],
  ['prize 41-43', ['the last talk', 'last speech', 'last time somebody talks', 'latest talk', 'last talking']],
  [
    'race 0-10',
    ['boats, most boats', 'most boats', 'the most ships', 'shot with the most boats', 'greatest number of boats'],
  ],
  // Colours.
  [
    'race 20-30, boat',
    [
      'the red boat',
      'compile all the scenes with the red boat',
      'red boats',
      'crimson ships',
      'show every bright red boat',
    ],
  ],
  ['race 110-120', ['blue boat', 'where is the blue boat', 'navy boats', 'a dark blue boat']],
  ['race 30-40', ['white boat, fast', 'white boats close up', 'close-up of a white boat']],
  ['race 90-100', ['brown dog', 'the brown puppy', 'dark brown dogs']],
  ['race 0-10, race 30-40, race 50-60, race 110-120', ['boats but not the red boat', 'boats without red boats']],
  [
    'builders 0-30',
    [
      'somebody in red',
      'red jacket',
      'who wears a red shirt',
      'wearing red',
      'the woman in the red dress',
      'a red t-shirt',
    ],
  ],
  ['builders 30-60', ['people in blue', 'dressed in blue', 'the man in the blue coat']],
  [
    'prize 0-20',
    [
      'yellow hat',
      'only the girl in the yellow hat',
      'someone with a yellow cap',
      'a golden helmet',
      'everyone in yellow hats',
    ],
  ],
  ['prize 40-60', ['black clothes', 'somebody in a black suit', 'in black']],
  ['race 20-30, boat, builders 0-30', ['something red', 'red', 'red things']],
];
