import { fits, type Fit } from '#core/framing';
import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayNotEmpty,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsObject,
  IsString,
  IsUUID,
  Length,
  Matches,
  Max,
  Min,
  ValidateNested,
} from 'class-validator';
import { nested, optional, orNull, trimmed } from '#core/checks';
import {
  TransitionForm,
  LookForm,
  StillMoveForm,
  SteadyForm,
  ClipForm,
  MusicForm,
  SourceStartForm,
  SizeForm,
  RateForm,
  MarkerForm,
  TitleForm,
  FramingForm,
  CaptionStyleForm,
  LogoForm,
  itemId,
} from './values';

import type { CommandOf, ReelCommand } from '..';
import { placings, type Placing } from '../put';

class CommandForm {
  @IsString() type!: string;
}
class OnClip extends CommandForm {
  @Matches(itemId, { message: 'Choose a piece.' }) clip!: string;
}
class OnClipOrAll extends CommandForm {
  @orNull() @Matches(itemId, { message: 'Choose a piece.' }) clip!: string | null;
}
class WithNewId extends OnClip {
  @Matches(itemId) newId!: string;
}
class Rename extends CommandForm {
  @trimmed() @IsString() @Length(1, 120, { message: 'Give a name of 1 to 120 characters.' }) name!: string;
}
class Format extends CommandForm {
  @optional() @nested(() => SizeForm) size?: SizeForm;
  @optional() @nested(() => RateForm) rate?: RateForm;
}
class Move extends OnClip {
  @IsInt() to!: number;
}
class Place extends OnClip {
  @IsInt() @Min(0) at!: number;
}
class Frames extends OnClip {
  @IsNumber() frames!: number;
}
class Trim extends OnClip {
  @IsIn(['in', 'out']) edge!: 'in' | 'out';
  @IsInt() frames!: number;
  @optional() @IsBoolean() inPlace?: boolean;
}
class Fade extends OnClip {
  @IsIn(['in', 'out']) edge!: 'in' | 'out';
  @IsInt() @Min(0) frames!: number;
}
class Split extends WithNewId {
  @IsInt() at!: number;
}
class Hold extends Split {
  @IsInt() @Min(1) frames!: number;
}
class Speed extends OnClip {
  @IsInt() @Min(0) @Max(400) percent!: number;
  @optional() @IsBoolean() keepLength?: boolean;
}
class Replace extends OnClip {
  @nested(() => SourceStartForm) with!: SourceStartForm;
  @optional() @IsBoolean() keepSound?: boolean;
  @optional() @IsBoolean() shorten?: boolean;
}
class Put extends CommandForm {
  @IsIn(placings) how!: Placing;
  @IsInt() at!: number;
  @IsArray()
  @ArrayNotEmpty()
  @ArrayMaxSize(2000)
  @ValidateNested({ each: true })
  @Type(() => ClipForm)
  clips!: ClipForm[];
  @optional() @IsBoolean() shorten?: boolean;
}
class SetTrack extends CommandForm {
  @IsInt() @Min(0) track!: number;
  @optional() @IsBoolean() locked?: boolean;
  @optional() @IsBoolean() muted?: boolean;
  @optional() @IsNumber() levelDb?: number;
  @optional() @IsString() @Length(1, 60) name?: string;
}
class Sound extends OnClip {
  @optional() @IsNumber() levelDb?: number;
  @optional() @IsBoolean() muted?: boolean;
}
class ReplaceSound extends OnClip {
  @nested(() => SourceStartForm) sound!: SourceStartForm;
}
class SetMusic extends CommandForm {
  @orNull() @nested(() => MusicForm) music!: MusicForm | null;
}
class Loudness extends CommandForm {
  @orNull() @IsNumber() lufs!: number | null;
}
class SetTransition extends OnClip {
  @orNull() @nested(() => TransitionForm) into!: TransitionForm | null;
}
class SetTransitions extends CommandForm {
  @orNull() @nested(() => TransitionForm) into!: TransitionForm | null;
}
class SetLook extends OnClipOrAll {
  @orNull() @nested(() => LookForm) look!: LookForm | null;
}
class SetFit extends OnClipOrAll {
  @orNull() @IsIn(fits) fit!: Fit | null;
}
class SetStillMove extends OnClip {
  @orNull() @nested(() => StillMoveForm) move!: StillMoveForm | null;
}
class SetSteady extends OnClip {
  @orNull() @nested(() => SteadyForm) steady!: SteadyForm | null;
}
class ClipFramingForm {
  @Matches(itemId, { message: 'Choose a piece.' }) clip!: string;
  @orNull() @nested(() => FramingForm) framing!: FramingForm | null;
}
class SetFraming extends CommandForm {
  @IsArray()
  @ArrayNotEmpty()
  @ArrayMaxSize(500)
  @ValidateNested({ each: true })
  @Type(() => ClipFramingForm)
  framings!: ClipFramingForm[];
}
class SetCaptions extends CommandForm {
  @orNull() @nested(() => CaptionStyleForm) style!: CaptionStyleForm | null;
}
class SetLogo extends CommandForm {
  @orNull() @nested(() => LogoForm) logo!: LogoForm | null;
}
class SetTitle extends CommandForm {
  @nested(() => TitleForm) title!: TitleForm;
}
class ById extends CommandForm {
  @IsUUID('all') id!: string;
}
class SetTheme extends CommandForm {
  @orNull() @IsString() @Length(1, 40) theme!: string | null;
}
class Mark extends CommandForm {
  @nested(() => MarkerForm) marker!: MarkerForm;
}
/** Its commands are checked one by one, each by its own form. */
class Several extends CommandForm {
  @IsString() @Length(1, 200) name!: string;
  @IsArray() @ArrayNotEmpty() @ArrayMaxSize(2000) @IsObject({ each: true }) commands!: ReelCommand[];
}
class Restore extends CommandForm {
  @IsInt({ message: 'Choose a version.' }) @Min(0) version!: number;
}

/** What a command from outside has to be, by its type. That of `slots` comes from a montage, never from outside. */
export const commandForms = {
  rename: Rename,
  format: Format,
  remove: OnClip,
  lift: OnClip,
  handOver: OnClip,
  takeBack: OnClip,
  move: Move,
  place: Place,
  trim: Trim,
  roll: Frames,
  slip: Frames,
  split: Split,
  speed: Speed,
  hold: Hold,
  replace: Replace,
  put: Put,
  track: SetTrack,
  sound: Sound,
  detach: WithNewId,
  attach: OnClip,
  unlink: OnClip,
  replaceSound: ReplaceSound,
  fade: Fade,
  music: SetMusic,
  loudness: Loudness,
  transition: SetTransition,
  transitions: SetTransitions,
  look: SetLook,
  fit: SetFit,
  stillMove: SetStillMove,
  steady: SetSteady,
  framing: SetFraming,
  captions: SetCaptions,
  logo: SetLogo,
  title: SetTitle,
  removeTitle: ById,
  theme: SetTheme,
  mark: Mark,
  unmark: ById,
  several: Several,
  restore: Restore,
} satisfies Record<FromOutside, new () => CommandForm>;

type FromOutside = Exclude<ReelCommand['type'], 'slots' | 'stepEdit'>;
/** Whether a form has every field of a command, all the way down. */
type Has<Form, Command> = Command extends readonly (infer Part)[]
  ? Form extends readonly (infer FormPart)[]
    ? Has<NonNullable<FormPart>, NonNullable<Part>>
    : false
  : Command extends object
    ? {
        [K in keyof Command]-?: K extends keyof Form ? Has<NonNullable<Form[K]>, NonNullable<Command[K]>> : false;
      }[keyof Command]
    : true;
type Incomplete = {
  [K in Exclude<FromOutside, 'several'>]: false extends Has<InstanceType<(typeof commandForms)[K]>, CommandOf<K>>
    ? K
    : never;
}[Exclude<FromOutside, 'several'>];
/** A field that its form does not know would be lost on the way to the server: here it does not compile. */
const incomplete: [Incomplete] extends [never] ? null : Incomplete = null;
void incomplete;

export {
  CaptionStyleForm,
  ClipForm,
  itemId,
  LogoForm,
  LookForm,
  MarkerForm,
  MusicForm,
  RateForm,
  SizeForm,
  TitleForm,
  TransitionForm,
} from './values';
