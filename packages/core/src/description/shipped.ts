// The descriptions that come with the application; others are imported as files.
import coriolis from './devices/coriolis.json' with { type: 'json' }
import level from './devices/level.json' with { type: 'json' }
import pressure from './devices/pressure.json' with { type: 'json' }
import temperature from './devices/temperature.json' with { type: 'json' }
import { descriptionSchema, type Description } from './schema.ts'

export const SHIPPED: readonly Description[] = [pressure, level, temperature, coriolis].map((d) =>
  descriptionSchema.parse(d),
)

/** The description for a device: of several the one for its revision, then the newest; undefined without one. */
export function descriptionFor(
  all: readonly Description[],
  device: { readonly expandedType: number; readonly deviceRevision: number },
): Description | undefined {
  return all
    .filter(
      ({ matches: m }) =>
        m.expandedType === device.expandedType && (m.deviceRevisions?.includes(device.deviceRevision) ?? true),
    )
    .sort(
      (a, b) => Number(!!b.matches.deviceRevisions) - Number(!!a.matches.deviceRevisions) || b.version - a.version,
    )[0]
}
