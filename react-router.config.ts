import type { Config } from '@react-router/dev/config';

export default {
  ssr: true,
  future: { v8_middleware: true },
  // All places are known from the start: a link must not ask a server that may be away.
  routeDiscovery: { mode: 'initial' },
} satisfies Config;
