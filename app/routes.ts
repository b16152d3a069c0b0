import { index, route, type RouteConfig } from '@react-router/dev/routes';

export default [
  index('routes/home.tsx'),
  route('projects/:projectId', 'routes/project.tsx', [
    index('routes/projectIndex.tsx'),
    route('footage', 'routes/footage.tsx'),
    route('footage/people', 'routes/people.tsx'),
    route('footage/:mediaId', 'routes/reading.tsx'),
    route('moments', 'routes/moments.tsx'),
    route('reels', 'routes/reels.tsx'),
    route('reels/:reelId', 'routes/reel.tsx'),
    route('music', 'routes/music.tsx'),
    route('outputs', 'routes/outputs.tsx'),
  ]),
  route('projects/:projectId/decisions', 'routes/decisions.ts'),
  route('projects/:projectId/tasks', 'routes/tasks.ts'),
  route('health', 'routes/health.ts'),
  route('upload/*?', 'routes/upload.ts'),
  route('media/:mediaId', 'routes/mediaFile.ts'),
  route('media/:mediaId/reading', 'routes/mediaReading.ts'),
  route('media/:mediaId/raw', 'routes/mediaRaw.ts'),
  route('media/:mediaId/words', 'routes/mediaWords.ts'),
  route('media/:mediaId/sheets/:sheet', 'routes/mediaSheet.ts'),
  route('outputs/:renderId', 'routes/outputFile.ts'),
] satisfies RouteConfig;
