package mellow.server.rehearsal;

import java.util.List;

/**
 * A place at which something else can be made to stand.
 *
 * @param name what the keys of its entries begin with, or the key of its entry
 * @param list whether one of several entries stands there, by their keys; else a form of its entry
 * @param values what can be chosen
 * @param now what stands there
 */
public record PlaceChoice(int place, String name, boolean list, List<String> values, String now) {}
