import { data } from 'react-router';
import { sceneTags, type SceneBoard } from '#core/moments';
import { removeDecision, saveDecision } from '#data/decisions';
import {
  loadBoard,
  loadPick,
  removeMarker,
  removeRecipe,
  saveBoard,
  saveDefaults,
  saveMarker,
  savePick,
  saveRecipe,
  type BoardKind,
} from '#data/log';
import { findMedia } from '#data/media';
import { isId } from '#data/projects';
import { DecisionDto, DefaultsDto, MarkerDto, PickDto, RecipeDto, SceneBoardDto, SilenceChoiceDto } from '../forms/dto';
import { requireProject } from '../server/project.server';
import { check, type Problems } from '../server/validate.server';
import type { Route } from './+types/log';

const refuse = (problems: Problems) => data({ problems }, { status: 422 });
const saved = { saved: true };

/**
 * What an editor decides and notes, saved as it is made: `{kind, id, value, version?}`; a null value takes it away. Each
 * change may arrive twice without harm. The mix and the arrangements of views have a version: when another window was
 * quicker, the answer is 409 with what stands there.
 */
export async function action({ params, request }: Route.ActionArgs) {
  const project = await requireProject(params.projectId);
  const body = (await request.json().catch(() => null)) as {
    kind?: string;
    id?: string;
    value?: unknown;
    version?: unknown;
  } | null;
  const version = Number.isInteger(body?.version) ? (body!.version as number) : 0;
  switch (body?.kind) {
    case 'decision':
    case 'marker': {
      if (body.value === null) {
        if (!isId(body.id)) return refuse({ id: 'No such thing.' });
        await (body.kind === 'decision' ? removeDecision : removeMarker)(project.id, body.id);
        return saved;
      }
      const checked = body.kind === 'decision' ? check(DecisionDto, body.value) : check(MarkerDto, body.value);
      if (!checked.ok) return refuse(checked.problems);
      const item = await findMedia(checked.value.media);
      if (!item || item.projectId !== project.id)
        return refuse({ media: 'This footage is not in the project any more.' });
      if (checked.value instanceof DecisionDto) await saveDecision(project.id, checked.value);
      else await saveMarker(project.id, checked.value);
      return saved;
    }
    case 'recipe': {
      if (body.value === null) {
        if (!isId(body.id)) return refuse({ id: 'No such recipe.' });
        await removeRecipe(project.id, body.id);
        return saved;
      }
      const checked = check(RecipeDto, body.value);
      if (!checked.ok) return refuse(checked.problems);
      await saveRecipe(project.id, checked.value);
      return saved;
    }
    case 'defaults': {
      const checked = check(DefaultsDto, { in: null, out: null, ...(body.value as object), id: body.id });
      if (!checked.ok) return refuse(checked.problems);
      const { id, in: from = null, out: to = null } = checked.value;
      if (from !== null && to !== null && to <= from)
        return refuse({ out: 'The out point must lie after the in point.' });
      await saveDefaults(project.id, id, from, to);
      return saved;
    }
    case 'pick': {
      const checked = check(PickDto, body.value);
      if (!checked.ok) return refuse(checked.problems);
      const { targetSeconds = null, water = null, ...rest } = checked.value;
      const now = await savePick(project.id, { ...rest, targetSeconds, water }, version);
      return now === null
        ? data({ kind: 'pick', ...(await loadPick(project.id)) }, { status: 409 })
        : { saved: true, version: now };
    }
    case 'scenes':
    case 'silence': {
      const checked = body.kind === 'scenes' ? check(SceneBoardDto, body.value) : check(SilenceChoiceDto, body.value);
      if (!checked.ok) return refuse(checked.problems);
      if (
        checked.value instanceof SceneBoardDto &&
        Object.values(checked.value.tags).some((tag) => !(sceneTags as readonly string[]).includes(tag))
      )
        return refuse({ tags: 'There is no such tag.' });
      const kind: BoardKind = body.kind;
      const document =
        checked.value instanceof SceneBoardDto
          ? (checked.value as SceneBoard)
          : { ...checked.value, thresholdDb: checked.value.thresholdDb ?? null };
      const now = await saveBoard(project.id, kind, document, version);
      return now === null
        ? data({ kind, ...(await loadBoard(project.id, kind)) }, { status: 409 })
        : { saved: true, version: now };
    }
    default:
      return refuse({ kind: 'Nothing to save.' });
  }
}
