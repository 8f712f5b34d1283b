package mellow.server.rehearsal;

/** A file that is shown or heard in a language: its number, and its name, whose ending tells what it is. */
public record AssetShown(long file, String name) {}
