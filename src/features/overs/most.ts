/** More than four at once nobody keeps apart. */
export const MOST_OVERS = 4;
