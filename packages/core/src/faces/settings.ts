/**
 * The thresholds that decide what is found on a face, a group a step of the search. Each is held by a test: raised by a
 * third it changes what is found on one of the pinned pictures. Where no source is given a value was chosen on drawn faces
 * of known truth, as the one that finds most with the fewest false marks. Px are pixels of the picture, or of its coarser
 * copy; "spreads" are standard deviations of the noise at that place.
 */
export interface FaceSettings {
  /** What is taken for a picture of a face at all. */
  readonly face: {
    /** The shorter side of a picture, px: less shows no 2 um at any framing. */
    readonly leastSidePx: number;
    /** The level that a tenth of the pixels reach, of 255: under it the picture is dark. */
    readonly leastLevel: number;
    /** The smallest defect that every table asks about, um. */
    readonly smallestUm: number;
    /** Pixels across that the smallest defect needs to be told from noise; house. */
    readonly pixelsForSmallest: number;
    /** An edge softer than this hides what the tables ask about; um, house. */
    readonly mostBlurUm: number;
    /** A picture whose pixels are half of this or less is made coarser: it shows nothing more, at many times the work; um. */
    readonly coarsePixelUm: number;
    /** A picture with pixels of this size and more is searched twice as large; um. */
    readonly doubledFromUm: number;
  };
  readonly cladding: {
    /** Share of the angles at which the edge has to be seen; a picture cut off at a side shows fewer. */
    readonly leastSeen: number;
    /** Share of the directions in which the rim is as in most; less, and it is no face. */
    readonly leastAlike: number;
    /** The same where smooth glass lies in grain: a rim in slanting light shows on one side only. House. */
    readonly alikeInGrain: number;
    /** So many times as rough as the glass is grain; on drawn faces it is two to five times. House. */
    readonly grainTimes: number;
    /** Spread of the glass over its level: more is relief or a pattern. */
    readonly mostUneven: number;
    /** How much rings in the glass differ, over what the rim stands out by. */
    readonly mostRings: number;
    /** How far blocks of a surface lie off its light, over what the rim stands out by. */
    readonly mostPatchy: number;
    /** And over the ferrule's level, whose grain is coarse. */
    readonly patchyFerrule: number;
    /** So many standard deviations of the blur beyond the rim nothing of it is left. */
    readonly rimBlurs: number;
  };
  readonly core: {
    /** On each of its sides a core stands out of the glass by this many times what chance does to the middle levels. */
    readonly chance: number;
    /** Between the radii of single-mode and multimode cores; um. */
    readonly betweenSingleAnd50Um: number;
    /** Between the radii of 50 and 62.5 um cores, 25 and 31.25 um. */
    readonly between50And62Um: number;
  };
  /** Taking out the light. */
  readonly light: {
    /** A ring's median is of this many values; near the centre rings are joined until they hold them. */
    readonly leastOfRing: number;
    /** So near to the centre what lies there would pull the median of a ring: one median for all; um. */
    readonly pooledUm: number;
  };
  readonly noise: {
    /** Pixels that a ring needs for a spread of its own. */
    readonly leastOfRing: number;
    /** So near to the centre rings are too short to tell: a pit that lies there would be taken for their noise; px. */
    readonly nearCentrePx: number;
  };
  /** Crests: rows of pixels that stand out in one direction. */
  readonly crests: {
    /** Mean of nine pixels in a row that a pixel on a line has, spreads; a quick way past the rest. */
    readonly leastMean: number;
    /** A crest holds a pixel that stands out this much, spreads. */
    readonly seed: number;
    /** It goes on while it stands out this much, spreads. */
    readonly follows: number;
    /** How far the direction turns from a pixel to the next, of 18 steps to half a turn. */
    readonly turn: number;
  };
  /** Pieces in line with each other are one line. */
  readonly pieces: {
    /** How far apart along it; px. */
    readonly gapPx: number;
    /** How far beside it; px. */
    readonly asidePx: number;
    readonly turnedDeg: number;
  };
  readonly lines: {
    /** Pixels of a crest; fewer are noise. */
    readonly leastCrestPx: number;
    /** A shorter line is left to the search of spots; px. */
    readonly leastLengthPx: number;
    /** Two lines are one when this share of the shorter lies on the longer. */
    readonly sameWhenCovered: number;
    /** A line beside another of the other sign may be its shadow below this share of its height. */
    readonly shadowHeight: number;
  };
  /** The curve that a line follows. */
  readonly curve: {
    /** A parabola off its points by more than this in the middle is given up for a curve of the fourth degree; px. */
    readonly offPx: number;
    /** That one has to lie nearer by this factor. */
    readonly nearer: number;
    /** And the line to be this long, since a short one can be bent to anything; px. */
    readonly longPx: number;
  };
  /** What is a line when it is measured. */
  readonly line: {
    readonly mostWidthPx: number;
    /** A line is so many times longer than wide. */
    readonly elongation: number;
    /** Its height over the noise of a pixel, spreads. */
    readonly leastHeight: number;
    /** Middles of stretches that lie this little off the curve move it no more; px. */
    readonly closeEnoughPx: number;
    /** A stretch is on the line when it has this share of the line's height. */
    readonly onLine: number;
    /** Share of the stretches that are on the line: a row of spots has gaps. */
    readonly shareOnLine: number;
    /** How far stretches lie off the curve; more, and it is a crack or lint; px. */
    readonly mostRoughPx: number;
    /** What chance adds to that on a faint line; px at a height of one spread. */
    readonly roughByChance: number;
    /** The line is looked for this near to the curve; px. */
    readonly sideFromPx: number;
    /** Its surroundings are seen from there on; px. */
    readonly sideToPx: number;
  };
  /** Taking lines out of the face before spots are looked for. */
  readonly peel: {
    /** A line's height varies along it by less than this share. */
    readonly heightVaries: number;
    /** Where exactly it ends is not known: this share of it may go on there. */
    readonly goesOnAtEnds: number;
    /** For so many pixels and half its width. */
    readonly beyondEndPx: number;
    /** A line that ends this near to the rim reaches it; px. */
    readonly toRimPx: number;
  };
  /** Making lines one that are parts of the same scratch. */
  readonly merge: {
    /** Ends lie at most this far apart, or run past each other by as much; px. */
    readonly apartPx: number;
    readonly turnedDeg: number;
    readonly asidePx: number;
    /** What lies between them may bend on; degrees a pixel. */
    readonly bendsDegPerPx: number;
    /** Width and height differ by no more than this factor. */
    readonly alike: number;
    /** The direction of an end is that of so many last pixels. */
    readonly tailPx: number;
    /** A line shorter than this may be what was left of a longer one; px. */
    readonly shortPx: number;
    /** When it lies this near beside the longer; px. */
    readonly besidePx: number;
    /** Or this near beyond its end; px. */
    readonly beyondPx: number;
    /** And has its direction to within this; degrees. */
    readonly alongDeg: number;
  };
  readonly spots: {
    /** Peaks of noise that a whole face may show at one scale and of one sign as something that lies on it. */
    readonly falsePerScale: number;
    /** The same on the ferrule, where a small mark decides nothing and grain is like one. */
    readonly falsePerScaleOfGrain: number;
    /** Levels that a seed stands out by in the stillest picture: its levels are whole numbers. */
    readonly leastLevels: number;
    /** However still the picture: a seed stands out this many spreads at least. */
    readonly leastSeed: number;
    /** So many peaks tell how high noise reaches. */
    readonly tellingPeaks: number;
    /** At the rim so many times as much: there the blurred edge is never taken out without a trace. */
    readonly seedAtRim: number;
    /** A seed grows to where it falls under this share of its highest pixel, which noise lifts over the spot's height. */
    readonly growsTo: number;
    readonly leastPx: number;
    /** More is no spot but the light; px. */
    readonly mostPx: number;
    /** A spot's peak over the noise of a pixel: among a quarter of a million pixels less is chance; spreads. */
    readonly leastPeak: number;
    /** From so many pixels on a spot is broad. */
    readonly broadPx: number;
    /** A broad spot's peak, spreads: its many pixels reach higher by chance. */
    readonly broadPeak: number;
    /** Pieces of a crack or of lint are thinner than this; px. */
    readonly thinPx: number;
    /** And lie this close to each other; px. */
    readonly closePx: number;
  };
  /** Spots with corners, which blur rounds off. */
  readonly corners: {
    /** What is summed for the shape reaches down to this share of the spot's height. */
    readonly reachesTo: number;
    /** From this three-sidedness on a spot has corners that blur cut off; 1 is a regular triangle. */
    readonly fromThreeSided: number;
    /** From this on it has all three. */
    readonly allThreeSided: number;
    /** What a blurred corner of 60 degrees loses on both ends of a diameter, in spreads of the blur. */
    readonly lostAtCorner: number;
    /** Only what is compact has corners of its own; area over the square of its diameter. */
    readonly compact: number;
  };
  readonly features: {
    /** Pixels of a spot that is surely none of a line. */
    readonly plainPx: number;
    /** Or pixels for each of its length. */
    readonly thickPx: number;
    /** Lines are not looked for this near to such a spot; px. */
    readonly keepOffPx: number;
    /** What lies wholly in so thin a rim is a trace of the edge itself; px. */
    readonly rimPx: number;
    /** What is left when lines are taken out stood out before by this share of it. */
    readonly shownBefore: number;
    /** A line of a crack is no longer than this; um. */
    readonly longestCrackUm: number;
    /** What comes this near to a line hangs on it; um. */
    readonly hangsOnUm: number;
    /** And so many of them make it a crack. */
    readonly leastHanging: number;
    /** A spot so many times longer than wide that fills this share of a bar of its size is a short scratch. */
    readonly barElongation: number;
    readonly barFilled: number;
    /** What bends more closely than this is lint: a grain under a moving film draws no such scratch; um, house. */
    readonly leastBendUm: number;
    /** From this length on the bend of a line is seen; um. */
    readonly bendSeenFromUm: number;
    /** A line that lies wholly in so wide a rim of the glass is a chip along it; um. */
    readonly rimUm: number;
    /** A spot that is seen wider than this, in spreads of the blur, shows its own shape. */
    readonly shapedFromBlurs: number;
    /** What the blur takes off the points of such a shape, spreads of it. */
    readonly roundedOff: number;
    /** A spot so many times longer than wide may be a scratch too short for the search of lines. */
    readonly shortLineElongation: number;
    /** A short line that stands out less than this over the noise is a chance row of it; spreads. */
    readonly faintContrast: number;
    /** What is no wider than the blur leaves of a point stands out by this at least: noise is sharper than any lens; spreads. */
    readonly pointContrast: number;
    /** A line longer than this is no chance row; px. */
    readonly faintPx: number;
    /** A line longer than this is none of a crack's straight pieces; px. */
    readonly longestCrackPiecePx: number;
    /** Share of what hangs together along a line that lines make out; less, and it is a crack. */
    readonly madeOfLines: number;
    /** The same for a single short line. */
    readonly madeOfShortLine: number;
  };
  /** Where a line goes on beyond its end. */
  readonly ahead: {
    /** For so far; um. */
    readonly reachUm: number;
    /** What lies a little short of the end as well; um. */
    readonly backUm: number;
    /** This far off its own direction at most; um. */
    readonly asideUm: number;
    /** How much it bends on the way, a share of the way. */
    readonly bends: number;
    readonly turnedDeg: number;
    /** Widths differ by no more than this factor. */
    readonly alike: number;
    /** A piece of a line has no more than this many times the area of its width by its length. */
    readonly thinArea: number;
    /** From this area on, over the square of its diameter, a spot is round. */
    readonly roundFrom: number;
    /** What is round belongs to a line only so near beyond its end; um. */
    readonly roundReachUm: number;
    /** Defects on both sides of the rim come this near to it; um. */
    readonly touchUm: number;
  };
  /** The ferrule round the cladding. */
  readonly outside: {
    /** A copy that is searched is no coarser than this: only what is large counts there; um. */
    readonly copyUm: number;
  };
  readonly compare: {
    /** How far apart the same mark may be measured in two pictures, on top of half of its size; um, house. */
    readonly apartUm: number;
  };
}

/** The settings that the product measures with. */
export const FACE_SETTINGS: FaceSettings = {
  face: {
    leastSidePx: 160,
    leastLevel: 16,
    smallestUm: 2,
    pixelsForSmallest: 2,
    mostBlurUm: 1.6,
    coarsePixelUm: 0.32,
    doubledFromUm: 0.45,
  },
  cladding: {
    leastSeen: 0.6,
    leastAlike: 0.7,
    alikeInGrain: 0.5,
    grainTimes: 1.5,
    mostUneven: 0.12,
    mostRings: 0.5,
    mostPatchy: 0.25,
    patchyFerrule: 0.06,
    rimBlurs: 2.5,
  },
  core: {
    chance: 3,
    betweenSingleAnd50Um: 14,
    between50And62Um: 28,
  },
  light: {
    leastOfRing: 110,
    pooledUm: 9,
  },
  noise: {
    leastOfRing: 80,
    nearCentrePx: 8,
  },
  crests: {
    leastMean: 1,
    seed: 5,
    follows: 2.8,
    turn: 2,
  },
  pieces: {
    gapPx: 70,
    asidePx: 7,
    turnedDeg: 22,
  },
  lines: {
    leastCrestPx: 7,
    leastLengthPx: 26,
    sameWhenCovered: 0.45,
    shadowHeight: 0.45,
  },
  curve: {
    offPx: 0.3,
    nearer: 0.75,
    longPx: 90,
  },
  line: {
    mostWidthPx: 16,
    elongation: 4,
    leastHeight: 1.9,
    closeEnoughPx: 0.18,
    onLine: 0.4,
    shareOnLine: 0.72,
    mostRoughPx: 0.6,
    roughByChance: 1,
    sideFromPx: 4,
    sideToPx: 6,
  },
  peel: {
    heightVaries: 0.65,
    goesOnAtEnds: 1.3,
    beyondEndPx: 9,
    toRimPx: 22,
  },
  merge: {
    apartPx: 40,
    turnedDeg: 28,
    asidePx: 4,
    bendsDegPerPx: 0.35,
    alike: 1.8,
    tailPx: 26,
    shortPx: 75,
    besidePx: 6,
    beyondPx: 25,
    alongDeg: 25,
  },
  spots: {
    falsePerScale: 0.003,
    falsePerScaleOfGrain: 0.00005,
    leastLevels: 1.2,
    leastSeed: 4.5,
    tellingPeaks: 40,
    seedAtRim: 1.6,
    growsTo: 0.43,
    leastPx: 4,
    mostPx: 60_000,
    leastPeak: 5.4,
    broadPx: 40,
    broadPeak: 1.15,
    thinPx: 9,
    closePx: 5,
  },
  corners: {
    reachesTo: 0.25,
    fromThreeSided: 0.6,
    allThreeSided: 1.1,
    lostAtCorner: 2.6,
    compact: 0.3,
  },
  features: {
    plainPx: 40,
    thickPx: 16,
    keepOffPx: 7,
    rimPx: 2,
    shownBefore: 0.3,
    longestCrackUm: 45,
    hangsOnUm: 1.2,
    leastHanging: 2,
    barElongation: 3.2,
    barFilled: 0.75,
    leastBendUm: 55,
    bendSeenFromUm: 18,
    rimUm: 4.5,
    shapedFromBlurs: 3,
    roundedOff: 0.28,
    shortLineElongation: 5,
    faintContrast: 4,
    pointContrast: 8,
    faintPx: 60,
    longestCrackPiecePx: 100,
    madeOfLines: 0.65,
    madeOfShortLine: 0.85,
  },
  ahead: {
    reachUm: 16,
    backUm: 2,
    asideUm: 1.6,
    bends: 0.14,
    turnedDeg: 30,
    alike: 1.8,
    thinArea: 2,
    roundFrom: 0.5,
    roundReachUm: 5,
    touchUm: 1.5,
  },
  outside: {
    copyUm: 0.8,
  },
  compare: {
    apartUm: 2.5,
  },
};
