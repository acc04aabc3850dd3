-- What a horse is like for good, apart from the signs of a day.
alter table horse add column traits text[] not null default '{}' check (traits <@ array[
    'quick-learner', 'slow-learner', 'behind-the-bit', 'pops-up-behind', 'squirms', 'looks-about', 'needs-pushing', 'runs-free',
    'one-sided', 'leg-sensitive', 'idle-mouth', 'busy-mouth', 'in-season']);
