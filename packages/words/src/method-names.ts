/** What a method is called where there is room for a few words, by the id of a shipped one. */
const SHORT: Readonly<Record<string, string>> = {
  'round-cord': 'Cord preparation, 3 mm',
  'buffer-strip-900': 'Buffer strip, 900 µm',
  'flat-drop': 'Flat drop, furcation',
  'closure-central': 'Closure, central member',
  'closure-armored': 'Closure, armored',
  'closure-embedded': 'Closure, embedded members',
  'closure-roddable': 'Closure, roddable units',
  'closure-unitube': 'Closure, central tube',
  'bench-cleave': 'Bench cleave',
  'scribe-pull': 'Scribe and pull',
  'epoxy-heat': 'Epoxy, heat-cured',
  'acrylic-primer': 'Adhesive with primer',
  'acrylic-activator': 'Adhesive with activator',
  'handle-crimp': 'Pre-polished, handle crimp',
  'cam-light': 'Pre-polished, cam tool',
  'lc-wedge-locator': 'LC wedge, with locator',
  'lc-wedge': 'LC wedge',
  'st-wedge': 'ST-style wedge',
  'st-wedge-locator': 'ST-style wedge, locator',
  'holder-base': 'SC, fiber holder',
  'flat-jig': 'SC, flat cable jig',
  'plunger-crimp': 'ST-style, plunger tool',
  'single-fusion': 'Single fusion splice',
  'ribbon-splice': 'Ribbon splice, 12',
  'fused-mpo': 'Fused-on, 12 fibers',
  'duplex-assembly': 'Duplex and polarity',
  'inspect-single': 'Inspection, single fiber',
  'inspect-mpo': 'Inspection, MPO',
  'blind-calls': 'Blind calls',
  'loss-one-cord': 'Loss, one cord',
  'loss-two-cord': 'Loss, two cords, MM',
  'loss-two-cord-sm': 'Loss, two cords, SM',
  'loss-three-cord': 'Loss, three cords, MM',
  'loss-three-cord-sm': 'Loss, three cords, SM',
  'locator-continuity': 'Continuity by locator',
  'mpo-trunk': 'MPO trunk',
  'otdr-link': 'OTDR test of a link',
  'read-a-trace': 'Read a trace',
};
const SHIPPED = 'clear-mark/';

/** Characters that a short name of a shipped method has at most. */
export const LONGEST_SHORT_NAME = 26;

/** The short name of a shipped method; of any other its title. */
export function shortMethodName(methodId: string, title: string): string {
  const known = methodId.startsWith(SHIPPED) ? SHORT[methodId.slice(SHIPPED.length)] : undefined;
  return known ?? title;
}
