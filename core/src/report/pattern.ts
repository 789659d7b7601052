/** Whether the name of a table's file stands for several. */
export const isPattern = (file: string): boolean => file.includes('*');
