import { index, prefix, route, type RouteConfig } from '@react-router/dev/routes'

export default [
  index('routes/start.tsx'),
  route('sign-in', 'routes/sign-in.tsx'),
  route('sign-up', 'routes/sign-up.tsx'),
  route('sign-out', 'routes/answers/sign-out.tsx'),
  route('schemes', 'routes/answers/schemes.ts'),
  route('sites', 'routes/sites.tsx'),
  route('sites/new', 'routes/new-site.tsx'),
  route('sites/:siteId', 'routes/site.tsx', [
    index('routes/site-start.tsx'),
    route('plan', 'routes/plan.tsx'),
    route('names', 'routes/names.tsx'),
    route('template', 'routes/template.tsx'),
    route('pages', 'routes/pages.tsx'),
    route('checks', 'routes/checks.tsx'),
    route('upload', 'routes/upload.tsx'),
  ]),
  route('sites/:siteId/look', 'routes/look.tsx'),
  // Answers without a page of their own.
  ...prefix('sites/:siteId', [
    route('changes', 'routes/answers/changes.ts'),
    route('ripple', 'routes/answers/ripple.ts'),
    route('places', 'routes/answers/places.ts'),
    route('versions', 'routes/answers/versions.ts'),
    route('files', 'routes/answers/files.ts'),
    route('files/:fileId', 'routes/answers/file.ts'),
    route('events', 'routes/answers/events.ts'),
    route('texts/:hash', 'routes/answers/texts.ts'),
    route('results/:pageId', 'routes/answers/results.ts'),
    route('preview-address', 'routes/answers/preview-address.ts'),
    route('site.zip', 'routes/answers/site-zip.ts'),
  ]),
  route('preview/:token/*', 'routes/answers/preview.ts'),
] satisfies RouteConfig
