/** The dimension that stands for customers and vendors: lines carry them beside their other dimensions. */
export const PARTY = 'party';
/** The dimension that stands for source journals, which entries carry. */
export const SOURCE = 'source';
