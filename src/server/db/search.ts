/** Words to look for, as a LIKE pattern in which they mean only themselves. */
export const likePattern = (words: string): string => `%${words.trim().replace(/[\\%_]/g, (c) => `\\${c}`)}%`;
