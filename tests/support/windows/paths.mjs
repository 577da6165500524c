/** A path as Windows has it, and where it is. */
const drive = 'C:';

export const toReal = (value) =>
  typeof value === 'string' && (/^[A-Z]:/.test(value) || value.includes('\\'))
    ? value.replace(/^[A-Z]:/, '').replaceAll('\\', '/')
    : value;

export const toWindows = (value) =>
  typeof value === 'string' && value.startsWith('/') ? drive + value.replaceAll('/', '\\') : value;
