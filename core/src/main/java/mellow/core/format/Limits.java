package mellow.core.format;

/**
 * What a file may not exceed.
 *
 * @param bytes size of the file
 * @param entries entries in it
 * @param textBytes length of one text in the file, in bytes
 * @param columns columns of a sheet
 */
public record Limits(long bytes, int entries, int textBytes, int columns) {

    /** 200 MB, a million entries, texts of a million bytes, 400 columns (more is a wrong delimiter). */
    public static final Limits DEFAULT = new Limits(200L * 1024 * 1024, 1_000_000, 1_000_000, 400);
}
