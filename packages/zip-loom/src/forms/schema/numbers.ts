/** Numbers as HTML has them (HTML §2.3.4.3 “valid floating-point number”): decimal notation only, the whole text. */

/** Digits, perhaps with a sign, a point and an exponent. */
export function isDecimal(text: string): boolean {
  const afterSign = text[0] === '-' ? 1 : 0;
  const whole = endOfDigits(text, afterSign);
  const end = text[whole] === '.' ? endOfDigits(text, whole + 1) : whole;
  const digits = end - afterSign - (end > whole ? 1 : 0);
  if (digits === 0) return false;
  if (end === text.length) return true;
  if (text[end] !== 'e' && text[end] !== 'E') return false;
  const exponent = text[end + 1] === '+' || text[end + 1] === '-' ? end + 2 : end + 1;
  return exponent < text.length && endOfDigits(text, exponent) === text.length;
}

function endOfDigits(text: string, start: number): number {
  let end = start;
  while (text.charCodeAt(end) >= 0x30 && text.charCodeAt(end) <= 0x39) end++;
  return end;
}
