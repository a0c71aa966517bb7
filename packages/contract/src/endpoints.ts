// Every route of the HTTP interface, once: the server mounts it, the web application calls it, the OpenAPI file
// describes it.
import { attachmentRoutes } from './attachments.ts'
import { loopRoutes } from './loop-routes.ts'
import { outgoingRoutes } from './outgoing.ts'
import { peopleRoutes } from './people-routes.ts'
import { portRoutes } from './port-routes.ts'
import { electrodeRoutes } from './electrodes.ts'
import { errandRoutes } from './errands.ts'
import { kitRoutes } from './kit-record.ts'
import { roundRoutes } from './round.ts'
import { settingRoutes } from './setting-routes.ts'
import { shiftRoutes } from './shift.ts'
import { siteRoutes } from './site-routes.ts'
import { weekRoutes } from './weeks.ts'
import { waitingRoutes } from './waiting.ts'

export type { Access, Endpoint, Media } from './endpoint.ts'

export const endpoints = {
  ...peopleRoutes,
  ...loopRoutes,
  ...attachmentRoutes,
  ...siteRoutes,
  ...settingRoutes,
  ...roundRoutes,
  ...kitRoutes,
  ...weekRoutes,
  ...shiftRoutes,
  ...portRoutes,
  ...electrodeRoutes,
  ...errandRoutes,
  ...outgoingRoutes,
  ...waitingRoutes,
} as const

export type Endpoints = typeof endpoints
export type EndpointName = keyof Endpoints
