import { data } from 'react-router';
import { deleteHouseStyle, listHouseStyles, saveHouseStyle } from '#data/shorts';
import type { HouseStyle } from '#core/reel';
import { SaveHouseStyleDto } from '../forms/shortsDto';
import { requireProject } from '../server/project.server';
import { check } from '../server/validate.server';
import type { Route } from './+types/houseStyles';

export async function loader({ params }: Route.LoaderArgs) {
  const project = await requireProject(params.projectId);
  return {
    styles: (await listHouseStyles(project.id)).map(({ id, name, shared, projectId, document }) => ({
      id,
      name,
      shared,
      own: projectId === project.id,
      document,
    })),
  };
}

/** Keeps a house style, or forgets it; reels that were dressed in it stay as they are. */
export async function action({ params, request }: Route.ActionArgs) {
  const project = await requireProject(params.projectId);
  const checked = check(SaveHouseStyleDto, await request.json().catch(() => null));
  if (!checked.ok) return data({ problem: Object.values(checked.problems)[0]!, id: null }, { status: 422 });
  const { intent, id, name, shared, document } = checked.value;
  if (intent === 'delete') {
    if (id) await deleteHouseStyle(project.id, id);
    return { problem: null, id: null };
  }
  return {
    problem: null,
    id: await saveHouseStyle(
      project.id,
      name!,
      shared ?? false,
      JSON.parse(JSON.stringify(document)) as HouseStyle,
      id,
    ),
  };
}
