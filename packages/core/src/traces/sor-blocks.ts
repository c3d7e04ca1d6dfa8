/**
 * Rows of the blocks of a trace file as the published standard lays them out (SR-4731, revision 2, and what revision 1 has of
 * them), written from memory. Numbers are as the file has them: times in 100 ps, losses in 0.001 dB, a group index in 0.00001.
 */
export const GENERAL_ROWS = [
  ['language', 'chars2'],
  ['cableId', 'text'],
  ['fiberId', 'text'],
  ['fiberType', 'i16', 2],
  ['wavelengthNm', 'i16'],
  ['from', 'text'],
  ['to', 'text'],
  ['cableCode', 'text'],
  ['condition', 'chars2'],
  ['userOffset', 'i32'],
  ['userOffsetDistance', 'i32', 2],
  ['operator', 'text'],
  ['comment', 'text'],
] as const;

export const SUPPLIER_ROWS = [
  ['supplier', 'text'],
  ['mainframe', 'text'],
  ['mainframeSerial', 'text'],
  ['module', 'text'],
  ['moduleSerial', 'text'],
  ['software', 'text'],
  ['other', 'text'],
] as const;

/** Before the lists of pulses; `seconds` since 1970, `tenthsNm` the wavelength in 0.1 nm. */
export const FIXED_HEAD_ROWS = [
  ['seconds', 'u32'],
  ['units', 'chars2'],
  ['tenthsNm', 'i16'],
  ['offset', 'i32'],
  ['offsetDistance', 'i32', 2],
] as const;

/** After them: `backscatter` in -0.1 dB for a pulse of 1 ns, thresholds in 0.001 dB, that of reflectance as its negative low word. */
export const FIXED_TAIL_ROWS = [
  ['groupIndex', 'i32'],
  ['backscatter', 'i16'],
  ['averages', 'i32'],
  ['averagingTenths', 'u16', 2],
  ['range', 'i32'],
  ['rangeDistance', 'i32', 2],
  ['frontPanel', 'i32'],
  ['noiseFloor', 'u16'],
  ['noiseFloorScale', 'i16'],
  ['powerOffset', 'u16'],
  ['lossThreshold', 'u16'],
  ['reflectanceThreshold', 'u16'],
  ['endThreshold', 'u16'],
  ['traceType', 'chars2', 2],
  ['windowX1', 'i32', 2],
  ['windowY1', 'i32', 2],
  ['windowX2', 'i32', 2],
  ['windowY2', 'i32', 2],
] as const;

/** `slope` in 0.001 dB/km before the event; `kind` such as 1F9999: reflective, found by the software; `method` LS or 2P. */
export const EVENT_ROWS = [
  ['number', 'i16'],
  ['time', 'i32'],
  ['slope', 'i16'],
  ['loss', 'i16'],
  ['reflectance', 'i32'],
  ['kind', 'chars6'],
  ['method', 'chars2'],
  ['endOfPrevious', 'i32', 2],
  ['start', 'i32', 2],
  ['end', 'i32', 2],
  ['startOfNext', 'i32', 2],
  ['peak', 'i32', 2],
  ['comment', 'text'],
] as const;

export const END_TO_END_ROWS = [
  ['loss', 'i32'],
  ['from', 'i32'],
  ['to', 'i32'],
  ['returnLoss', 'u16'],
  ['returnLossFrom', 'i32'],
  ['returnLossTo', 'i32'],
] as const;
