import type { Caution } from '@clear-mark/core';
import { care, stop } from '../build.ts';

export const GLASS = stop(
  'Glass shards: safety glasses from the first strip to the last sweep, no food or drink at the bench, offcuts on tape or in the sharps container. Wash your hands before eating or touching your face.',
);
export const LIGHT = stop(
  'Light: never look into a fiber or connector that is or could be connected to a source, and put no microscope on one. Test wavelengths are invisible. The red fault locator is a laser too.',
);
export const ARC = stop(
  'Electric arc and heater of the splicer: no opening during the arc, hot sleeve, no flammable vapour near it.',
);
export const CHEMICALS = care(
  'Alcohol, primers, adhesives, gel: flammable or irritating. Ventilate, keep from eyes and skin, know where the safety sheet is, dispose of them by the site’s rules.',
);
export const HEAT = care('Curing oven, thermal stripper: hot surfaces; let parts cool.');
export const BLADES = care(
  'Blades and shears: cut away from the hand, cap the scribe. Keep fingers off the cleaver’s rising button and blade carriage.',
);
export const CABLE = care(
  'Cable work: cut away from the hand with the sheath knife; cut-resistant gloves where your site asks for them. A bonded shield can carry a fault current; the strength member is under spring tension.',
);
export const DEFER = care(
  'Follow your local codes, your laboratory’s rules and the makers’ safety sheets; this sheet replaces none of them and no licensed practice.',
);

/** Work on bare glass that no light reaches. */
export const FIBER_CAUTIONS: readonly Caution[] = [GLASS, CHEMICALS, BLADES, DEFER];
/** Work on a fiber that is inspected and tested in the end. */
export const LIVE_FIBER_CAUTIONS: readonly Caution[] = [GLASS, LIGHT, CHEMICALS, BLADES, DEFER];
