/** Code points of the shipped typefaces by file, in hex; read from the files by `npm run methods-document`. */
export const LETTER_RANGES = {
  Latin:
    '20-7e a0-ac ae-b4 b6-ff 102 131 152-153 2c6 2da 2dc 2009 2013-2014 2018-201a 201c-201e 2022 2026 2039-203a 2044 20ac 2122 2212 2215',
  LatinMore:
    '20 41 a0 c1 100-107 10a-113 116-11b 11e-123 126-127 12a-12b 12e-130 132-133 136-137 139-13e 141-148 150-151 154-155 158-15b 15e-165 16a-16b 16e-17e 192 218-21b 237 2c7 2c9 2dd 1e80-1e85 1e9e 1ef2-1ef3 2020 20b9 2113',
  Sans: '20-7e a0-ff 131 152-153 2bb-2bc 2c6 2da 2dc 2002 2009 200b 2013-2014 2018-201a 201c-201e 2022 2026 2032-2033 2039-203a 2044 20ac 2122 2212 feff fffd',
  SansMore:
    '20 a0 100-130 132-151 154-2ba 2bc-2c5 2c7-2cc 2ce-2d7 2dd-2ff 1d00-1dbf 1e00-1e9f 1ef2-1eff 2020 20a0-20ab 20ad-20c0 2113 2c60-2c7f a720-a7ca a7d0-a7d1 a7d3 a7d5-a7d9 a7f2-a7ff',
  Greek: '20 a0 370-377 37a-37f 384-38a 38c 38e-3a1 3a3-3e1 3f0-3ff',
  Cyrillic: '20 a0 400-45f 490-491 4b0-4b1 2116',
  CyrillicMore: '20 a0 460-482 48a-48f 492-4af 4b2-52f 1c80-1c88 20b4 a640-a66e a673 a67e-a69d',
  Vietnamese: '20 a0 102-103 110-111 128-129 168-169 1a0-1a1 1af-1b0 1ea0-1ef9 20ab',
} as const;
