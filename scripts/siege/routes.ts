import { commandForms } from '../../core/reel/commands/forms/index';
import * as delivery from '../../usecases/forms/deliveryDto';
import * as general from '../../usecases/forms/dto';
import * as montage from '../../usecases/forms/montageDto';
import * as reels from '../../usecases/forms/reelDto';
import * as shorts from '../../usecases/forms/shortsDto';
import * as tastes from '../../usecases/forms/tasteDto';
import * as variants from '../../usecases/forms/variantsDto';
import * as viewing from '../../usecases/forms/viewingDto';
import { plainTable } from './known';
import { freshId, nowHead, nowVersion, sampleOf, type Form, type Known, type Sample } from './samples';

/** What is sent to a route: a form or JSON, made from a class and what stands beside it. */
export interface Body {
  as: 'form' | 'json' | 'multipart';
  sample: Sample;
}
export interface Target {
  path: string;
  /** Names in its query that mean something. */
  query?: readonly string[];
  bodies?: (known: Known) => Body[];
  /** Others may look without the password. */
  open?: boolean;
}

const project = '/projects/:projectId';
const form =
  (...forms: (Form | Sample)[]) =>
  (known: Known): Body[] =>
    forms.map((each) => ({ as: 'form', sample: made(each, known) }));
const json =
  (...forms: (Form | Sample)[]) =>
  (known: Known): Body[] =>
    forms.map((each) => ({ as: 'json', sample: made(each, known) }));
const made = (each: Form | Sample, known: Known): Sample => (typeof each === 'function' ? sampleOf(each, known) : each);
/** What is done by each intent, with what it takes. */
const byIntent =
  (forms: Record<string, Form | Sample | Form[]>) =>
  (known: Known): Body[] =>
    Object.entries(forms).map(([intent, each]) => ({
      as: 'form',
      sample: { ...Object.assign({}, ...[each].flat().map((one) => made(one, known))), intent } as Sample,
    }));
/** A form that names its intents itself, with each of them. */
const withIntents =
  (intents: readonly string[], each: Form, as: Body['as'] = 'form') =>
  (known: Known): Body[] =>
    intents.map((intent) => ({ as, sample: { ...sampleOf(each, known), intent } }));
/** The same with other values in some places. */
const but =
  (each: Form, other: (known: Known) => Sample, as: Body['as'] = 'form') =>
  (known: Known): Body => ({ as, sample: { ...sampleOf(each, known), ...other(known) } });
const note =
  (kind: string, dto: Form) =>
  (known: Known): Body => ({
    as: 'json',
    sample: { kind, id: freshId, version: nowVersion, value: sampleOf(dto, known) },
  });

/** A decision list of one event (CMX 3600). */
const list =
  'TITLE: SIEGE\nFCM: NON-DROP FRAME\n001  AX       V     C        00:00:01:00 00:00:04:00 01:00:00:00 01:00:03:00\n* FROM CLIP NAME: race-day.mp4\n';

/** Every route of the application, with what it takes. */
export const targets: Target[] = [
  {
    path: '/',
    bodies: (known) => [
      ...form(general.NewProjectDto)(known),
      ...['rename', 'put-away', 'take-out', 'bring-back'].map((intent) =>
        but(general.ProjectChangeDto, ({ projectId }) => ({ id: projectId, intent }))(known),
      ),
    ],
  },
  { path: '/enter', query: ['to'], bodies: form({ password: 'x', to: '/' }, { intent: 'leave' }), open: true },
  { path: '/picture' },
  { path: '/storage', bodies: form({ kind: 'removed' }, { kind: 'x' }) },
  { path: '/handbook' },
  { path: '/handbook/:page' },
  { path: '/health', open: true },
  { path: '/ready', open: true },
  { path: '/metrics' },
  { path: '/projects', bodies: json(general.NewProjectDto) },
  { path: '/archives', bodies: () => [{ as: 'json', sample: { format: 'x' } }] },
  { path: '/presets', bodies: withIntents(['keep', 'remove', 'restore'], reels.ChangePresetDto, 'json') },
  { path: '/readings', query: ['of'] },
  { path: '/events', query: ['project'] },
  { path: '/work' },
  {
    path: '/speech-models',
    bodies: form({ intent: 'use', name: 'none' }, { intent: 'remove', name: 'x' }, { intent: 'use', name: '' }),
  },
  { path: '/tastes/:tasteId' },
  { path: '/upload', bodies: () => [{ as: 'json', sample: { x: 1 } }] },
  { path: '/upload/:upload' },
  { path: project },
  { path: `${project}/begin`, bodies: withIntents(['aim', 'make', 'again', 'keep'], general.BeginningDto) },
  {
    path: `${project}/footage`,
    bodies: byIntent({
      'new-bin': general.NameDto,
      'rename-bin': [general.BinDto, general.NameDto],
      'delete-bin': general.BinDto,
      'bring-back-bin': general.BinDto,
      'in-step': general.InStepDto,
      link: delivery.LinkDto,
      here: general.HereDto,
      watch: general.WatchDto,
      'input-look': general.InputLookDto,
      'find-again': general.ItemsDto,
      rename: general.RenameDto,
      range: [general.ItemsDto, general.ReadingRangeDto],
      ...Object.fromEntries(
        ['join', 'apart', 'hanging', 'take-out', 'bring-back', 'move', 'read', 'read-again'].map((intent) => [
          intent,
          general.ItemsDto,
        ]),
      ),
    }),
  },
  {
    path: `${project}/footage/people`,
    bodies: withIntents(['name', 'hide', 'show', 'portrait', 'join', 'split'], general.PersonDto),
  },
  {
    path: `${project}/footage/:mediaId`,
    bodies: (known) => [
      ...byIntent({
        range: general.ReadingRangeDto,
        sound: general.SoundChoiceDto,
        read: {},
        again: {},
        words: {},
      })(known),
      { as: 'json', sample: { rules: sampleOf(general.RulesDto, known) } },
    ],
  },
  { path: `${project}/moments`, query: ['reel', 'show', 'at', 'ask'] },
  { path: `${project}/reels`, bodies: json(general.MakeReelsDto) },
  {
    path: `${project}/reels/:reelId`,
    query: ['with'],
    bodies: withIntents(['delete', 'duplicate', 'nameVersion', 'forgetVersion'], reels.ReelIntentDto),
  },
  { path: `${project}/shorts`, bodies: (known) => [but(shorts.ShortsWishDto, () => ({ from: 0, to: 60 }))(known)] },
  {
    path: `${project}/shorts/:setId`,
    bodies: (known) => [
      ...withIntents(['thumb', 'order', 'render', 'again'], shorts.ShortsChangeDto, 'json')(known),
      ...withIntents(['delete', 'again'], shorts.ShortsChangeDto)(known),
    ],
  },
  { path: `${project}/music`, bodies: form({}) },
  { path: `${project}/music/:mediaId`, query: ['again'] },
  { path: `${project}/variants`, bodies: json(variants.MakeVariantsDto) },
  {
    path: `${project}/outputs`,
    bodies: (known) => form({ again: known.renderId }, { delete: known.renderId }, { again: 'x' })(known),
  },
  {
    path: '/viewing/:token',
    query: ['version', 'beside'],
    bodies: (known) => [
      ...form({ intent: 'password', password: 'x' })(known),
      ...withIntents(['comment', 'take-back', 'bring-back'], viewing.CommentDto)(known),
      ...withIntents(['approve', 'disapprove'], viewing.ApprovalDto)(known),
    ],
    open: true,
  },
  { path: '/viewing/:token/film/:versionId', query: ['download'], open: true },
  { path: `${project}/archive`, query: ['media'] },
  { path: `${project}/findable` },
  {
    path: `${project}/log`,
    bodies: (known) => [
      note('decision', general.DecisionDto)(known),
      note('marker', general.MarkerDto)(known),
      note('recipe', general.RecipeDto)(known),
      note('defaults', general.DefaultsDto)(known),
      note('pick', general.PickDto)(known),
      note('scenes', general.SceneBoardDto)(known),
      note('silence', general.SilenceChoiceDto)(known),
      note('separation', general.SeparationDto)(known),
      note('variants', variants.VariantSetDto)(known),
    ],
  },
  { path: `${project}/more-pieces`, bodies: json(general.MorePiecesDto) },
  { path: `${project}/framings`, bodies: json(shorts.FramingsDto) },
  { path: `${project}/variants/reels`, query: ['of'] },
  { path: `${project}/spoken` },
  { path: `${project}/caption-texts` },
  { path: `${project}/terms`, bodies: form(general.TermsDto) },
  {
    path: `${project}/reels/import`,
    bodies: (known) => [
      but(general.ImportReelDto, () => ({ text: list }), 'json')(known),
      ...json(general.ImportReelDto)(known),
    ],
  },
  { path: `${project}/reels/:reelId/export/:format`, query: ['speakers'] },
  {
    path: `${project}/reels/:reelId/render`,
    bodies: (known) => [but(reels.RenderDto, () => ({ pattern: '{reel} {for} {n}' }), 'json')(known)],
  },
  { path: `${project}/reels/:reelId/steps` },
  {
    path: `${project}/reels/:reelId/viewing`,
    bodies: (known) => [
      ...withIntents(
        ['open', 'show', 'again', 'renew', 'close', 'answer', 'tick', 'untick', 'remove', 'restore'],
        viewing.ViewingIntentDto,
      )(known),
      ...withIntents(['settings'], viewing.ViewingSettingsDto)(known),
    ],
  },
  { path: `${project}/reels/:reelId/first/:clip` },
  {
    path: `${project}/reels/:reelId/edits`,
    bodies: (known) =>
      Object.entries(commandForms).map(([type, dto]) => ({
        as: 'json',
        sample: { id: freshId, head: nowHead, command: { ...sampleOf(dto as Form, known), type } },
      })),
  },
  { path: `${project}/house-styles`, bodies: withIntents(['save', 'delete'], shorts.SaveHouseStyleDto, 'json') },
  {
    path: `${project}/tastes`,
    query: ['taste'],
    bodies: withIntents(['add', 'rename', 'remove', 'restore', 'bring'], tastes.ChangeTasteDto, 'json'),
  },
  {
    path: `${project}/looks`,
    query: ['table'],
    bodies: (known) => [...form({ remove: known.table })(known), { as: 'multipart', sample: { file: plainTable } }],
  },
  { path: `${project}/match`, query: ['reference', 'other'] },
  { path: `${project}/make-music`, bodies: json(montage.MakeMusicDto) },
  {
    path: `${project}/music/:mediaId/montage`,
    bodies: (known) => [
      { as: 'json', sample: { version: nowVersion, value: sampleOf(montage.MontageDto, known) } },
      { as: 'json', sample: { version: nowVersion, changes: sampleOf(montage.MontageChangesDto, known) } },
      { as: 'json', sample: { makeReel: true, ...sampleOf(montage.MakeReelDto, known) } },
    ],
  },
  {
    path: `${project}/posts`,
    bodies: (known) => [
      but(delivery.PostDto, ({ renderId }) => ({ render: renderId, outlet: 'simulated', account: 'pond-notices' }))(
        known,
      ),
      ...form({ again: 'x' })(known),
    ],
  },
  { path: `${project}/outputs/archive`, query: ['ids'] },
  {
    path: `${project}/tasks`,
    query: ['at'],
    bodies: (known) => form({ cancel: known.taskId }, { putAway: known.taskId })(known),
  },
  { path: `${project}/here`, query: ['folder'] },
  { path: '/media/:mediaId', query: ['read'] },
  { path: '/media/:mediaId/camera', query: ['start', 'end', 'in', 'out', 'from', 'to'] },
  { path: '/media/:mediaId/framing', query: ['at'], bodies: json(shorts.FramingDto) },
  { path: '/media/:mediaId/faces' },
  { path: '/media/:mediaId/raw' },
  { path: '/media/:mediaId/levels' },
  { path: '/media/:mediaId/excerpt', query: ['sound', 'from'] },
  {
    path: '/media/:mediaId/words',
    bodies: (known) => [
      ...json(general.EditWordsDto)(known),
      ...byIntent({ import: general.ImportWordsDto, again: general.OtherTextDto, hear: {}, reset: {} })(known),
    ],
  },
  { path: '/media/:mediaId/voices', bodies: form(general.SpeakersDto, { intent: 'tell' }) },
  { path: '/media/:mediaId/sheets/:sheet', query: ['read'] },
  { path: '/outputs/:renderId', query: ['download'] },
  { path: '/outputs/:renderId/captions' },
];
