// By hand there is time: what takes a second beside the other tests takes longer here.
process.env['GRIBO_SECONDS'] ??= '20';
process.env['GRIBO_MINUTES'] ??= '1';
