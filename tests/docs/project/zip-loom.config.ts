export default { layouts: { '**': 'site-layout' } };
