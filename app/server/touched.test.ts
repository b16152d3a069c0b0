import { expect, it } from 'vitest';
import { changedItem, changedProject } from './touched.server';

const id = '0b0a7000-0000-4000-8000-000000000001';
const changed = (method: string, path: string, status = 200) =>
  changedProject({ method, url: `http://127.0.0.1${path}` }, status);

it('a project is changed by what is sent to it and taken', () => {
  expect(changed('POST', `/projects/${id}/log`)).toBe(id);
  expect(changed('POST', `/projects/${id}/reels.data?index`)).toBe(id);
  expect(changed('POST', `/projects/${id}/log`, 422)).toBeNull();
  expect(changed('GET', `/projects/${id}/log`)).toBeNull();
  // Asking for pieces, or where the eye rests, changes nothing.
  for (const path of ['here', 'tasks', 'more-pieces', 'spoken'])
    expect(changed('POST', `/projects/${id}/${path}`)).toBeNull();
  expect(changed('POST', '/projects')).toBeNull();
});

it('words and frames are told of by their item', () => {
  const item = (method: string, path: string, status = 200) =>
    changedItem({ method, url: `http://127.0.0.1${path}` }, status);
  expect(item('POST', `/media/${id}/words`)).toBe(id);
  expect(item('POST', `/media/${id}/words`, 409)).toBeNull();
  expect(item('GET', `/media/${id}/words`)).toBeNull();
  expect(item('POST', `/media/${id}/levels`)).toBeNull();
});
