-- What a horse's record says of its barn is worked out from the logs of the barn's closed weeks, and is kept with no standing.
alter table standing drop column evidence;
