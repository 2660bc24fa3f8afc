/** What a signature can mean; a plant chooses among them. */
export const MEANINGS = ['performed', 'reviewed', 'approved', 'witnessed'] as const
export type Meaning = (typeof MEANINGS)[number]
