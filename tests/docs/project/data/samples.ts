export const firstBerths = { berths: [{ name: 'N1' }, { name: 'N2' }] };
export const noBerths = { berths: [] };
