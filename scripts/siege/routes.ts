import { commandForms } from '../../core/reel/commands/forms/index';
import * as delivery from '../../usecases/forms/deliveryDto';
import * as general from '../../usecases/forms/dto';
import * as montage from '../../usecases/forms/montageDto';
import * as reels from '../../usecases/forms/reelDto';
import * as shorts from '../../usecases/forms/shortsDto';
import * as tastes from '../../usecases/forms/tasteDto';
import * as variants from '../../usecases/forms/variantsDto';
import * as viewing from '../../usecases/forms/viewingDto';
import { sampleOf, type Form, type Known, type Sample } from './samples';

/** What is sent to a route: a form or JSON, made from a class and what stands beside it. */
export interface Body {
  as: 'form' | 'json';
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
/** Each form with every intent. */
const withIntents =
  (intents: readonly string[], ...forms: Form[]) =>
  (known: Known): Body[] =>
    intents.flatMap((intent) =>
      forms.map((each) => ({ as: 'form' as const, sample: { ...sampleOf(each, known), intent } })),
    );
const note =
  (kind: string, dto: Form) =>
  (known: Known): Body => ({ as: 'json', sample: { kind, id: known.id, version: 0, value: sampleOf(dto, known) } });

/** Every route of the application, with what it takes. */
export const targets: Target[] = [
  { path: '/', bodies: form(general.NewProjectDto, general.ProjectChangeDto) },
  { path: '/enter', query: ['to'], bodies: form({ password: 'x', to: '/' }, { intent: 'leave' }), open: true },
  { path: '/picture' },
  { path: '/storage', bodies: form({ kind: 'x' }) },
  { path: '/handbook' },
  { path: '/handbook/:page' },
  { path: '/health', open: true },
  { path: '/projects', bodies: json(general.NewProjectDto) },
  { path: '/archives', bodies: () => [{ as: 'json', sample: { format: 'x' } }] },
  { path: '/presets', bodies: json(reels.ChangePresetDto) },
  { path: '/readings', query: ['of'] },
  { path: '/tastes/:tasteId' },
  { path: '/upload', bodies: () => [{ as: 'json', sample: { x: 1 } }] },
  { path: '/upload/:upload' },
  { path: project },
  { path: `${project}/begin`, bodies: form(general.BeginningDto) },
  {
    path: `${project}/footage`,
    bodies: withIntents(
      [
        'new-bin',
        'rename-bin',
        'delete-bin',
        'bring-back-bin',
        'in-step',
        'link',
        'here',
        'watch',
        'join',
        'apart',
        'input-look',
        'find-again',
        'rename',
        'range',
        'take-out',
        'move',
        'read-again',
      ],
      ...[general.ItemsDto, general.NameDto, general.RenameDto, delivery.LinkDto, general.InStepDto, general.HereDto],
      ...[general.WatchDto, general.InputLookDto, general.ReadingRangeDto],
    ),
  },
  { path: `${project}/footage/people`, bodies: form(general.PersonDto) },
  {
    path: `${project}/footage/:mediaId`,
    bodies: (known) => [
      ...withIntents(
        ['range', 'sound', 'read', 'again', 'words'],
        general.ReadingRangeDto,
        general.SoundChoiceDto,
      )(known),
      { as: 'json', sample: { rules: sampleOf(general.RulesDto, known) } },
    ],
  },
  { path: `${project}/moments`, query: ['reel', 'show', 'at', 'ask'] },
  { path: `${project}/reels`, bodies: json(general.MakeReelsDto) },
  { path: `${project}/reels/:reelId`, query: ['with'], bodies: form(reels.ReelIntentDto) },
  { path: `${project}/shorts`, bodies: form(shorts.ShortsWishDto) },
  {
    path: `${project}/shorts/:setId`,
    bodies: (known) => [...form(shorts.ShortsChangeDto)(known), ...json(shorts.ShortsChangeDto)(known)],
  },
  { path: `${project}/music`, bodies: form({}) },
  { path: `${project}/music/:mediaId`, query: ['again'] },
  { path: `${project}/variants`, bodies: json(variants.MakeVariantsDto) },
  { path: `${project}/outputs`, bodies: form({ again: 'x' }, { delete: 'x' }) },
  {
    path: '/viewing/:token',
    query: ['version', 'beside'],
    bodies: (known) => [
      ...form({ intent: 'password', password: 'x' })(known),
      ...withIntents(
        ['comment', 'approve', 'disapprove', 'take-back', 'bring-back'],
        viewing.CommentDto,
        viewing.ApprovalDto,
      )(known),
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
  { path: `${project}/reels/import`, bodies: json(general.ImportReelDto) },
  { path: `${project}/reels/:reelId/export/:format`, query: ['speakers'] },
  { path: `${project}/reels/:reelId/render`, bodies: json(reels.RenderDto) },
  { path: `${project}/reels/:reelId/steps` },
  {
    path: `${project}/reels/:reelId/viewing`,
    bodies: withIntents(
      ['open', 'settings', 'show', 'again', 'renew', 'close', 'comment', 'done', 'take-back'],
      viewing.ViewingIntentDto,
      viewing.ViewingSettingsDto,
    ),
  },
  { path: `${project}/reels/:reelId/first/:clip` },
  {
    path: `${project}/reels/:reelId/edits`,
    bodies: (known) =>
      Object.entries(commandForms).map(([type, dto]) => ({
        as: 'json',
        sample: { id: known.id, head: 1, command: { ...sampleOf(dto as Form, known), type } },
      })),
  },
  { path: `${project}/house-styles`, bodies: json(shorts.SaveHouseStyleDto) },
  { path: `${project}/tastes`, query: ['taste'], bodies: json(tastes.ChangeTasteDto, tastes.TasteFileDto) },
  { path: `${project}/looks`, query: ['table'], bodies: form({ remove: 'x' }, { file: 'x' }) },
  { path: `${project}/match`, query: ['reference', 'other'] },
  { path: `${project}/make-music`, bodies: json(montage.MakeMusicDto) },
  {
    path: `${project}/music/:mediaId/montage`,
    bodies: (known) => [
      { as: 'json', sample: { version: 0, value: sampleOf(montage.SaveMontageDto, known) } },
      { as: 'json', sample: { version: 0, value: sampleOf(montage.MontageDto, known) } },
      { as: 'json', sample: { version: 0, changes: sampleOf(montage.MontageChangesDto, known) } },
      { as: 'json', sample: { makeReel: true, ...sampleOf(montage.MakeReelDto, known) } },
    ],
  },
  { path: `${project}/posts`, bodies: form(delivery.PostDto, { again: 'x' }) },
  { path: `${project}/outputs/archive`, query: ['ids'] },
  { path: `${project}/tasks`, query: ['at'], bodies: form({ cancel: 'x' }, { putAway: 'x' }) },
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
      ...withIntents(['hear', 'reset', 'again', 'import'], general.ImportWordsDto, general.OtherTextDto)(known),
    ],
  },
  { path: '/media/:mediaId/sheets/:sheet', query: ['read'] },
  { path: '/outputs/:renderId', query: ['download'] },
  { path: '/outputs/:renderId/captions' },
];
