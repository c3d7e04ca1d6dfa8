/** What a tap on a picture does. */
export type Tool = 'look' | 'rule' | 'defect' | 'scratch';
