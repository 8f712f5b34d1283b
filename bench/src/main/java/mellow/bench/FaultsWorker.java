package mellow.bench;

import java.io.IOException;
import java.net.http.HttpResponse;
import java.util.List;
import java.util.Map;
import java.util.Random;
import tools.jackson.databind.JsonNode;

/** One of thirty who work at once: looks, writes, answers, takes back and searches; every answer is counted. */
record FaultsWorker(FaultsClient client, List<Long> entries, Random random, Map<String, Integer> answers) {

    void until(long end) throws InterruptedException {
        while (System.nanoTime() < end) {
            try {
                one();
            } catch (IOException failed) {
                count("no answer: " + failed.getClass().getSimpleName());
            }
        }
    }

    private void count(String answer) {
        answers.merge(answer, 1, Integer::sum);
    }

    private JsonNode asked(HttpResponse<byte[]> response) {
        JsonNode body = response.body().length > 0 && response.body()[0] == '{'
                ? FaultsClient.read(response)
                : FaultsClient.nothing();
        String code = response.statusCode() < 300 ? "" : " " + body.path("code").asString("");
        count(response.statusCode() + code);
        return response.body().length > 0 && response.body()[0] == '[' ? FaultsClient.read(response) : body;
    }

    private void one() throws IOException, InterruptedException {
        long entry = entries.get(random.nextInt(entries.size()));
        switch (random.nextInt(8)) {
            case 0 -> asked(client.json("GET", "/api/scope?table=crowd&in=de&only=offered", ""));
            case 1 -> asked(client.json("GET", "/api/find?words=Einheit%20" + random.nextInt(400), ""));
            case 2 -> asked(client.json("GET", "/api/review?in=de", ""));
            case 3 -> asked(client.json("GET", "/api/tables", ""));
            case 4 -> bulk();
            default -> write(entry);
        }
    }

    private void write(long entry) throws IOException, InterruptedException {
        JsonNode rows = asked(client.json("GET", "/api/rows?ids=" + entry + "&in=de", ""));
        JsonNode cell = rows.path(0).path("cells").path(0);
        String action = random.nextBoolean() ? "PUT_FORWARD" : "SETTLE";
        JsonNode changed = asked(client.json(
                "POST",
                "/api/entries/" + entry + "/cells/de/changes",
                "{\"action\":\"" + action + "\",\"version\":"
                        + cell.path("version").asInt(0) + ",\"text\":\"Einheit " + random.nextInt(1000)
                        + "\",\"meaningConfirmed\":false}"));
        if (changed.has("change") && random.nextInt(4) == 0) {
            asked(client.json("POST", "/api/changes/" + changed.path("change").asLong() + "/undo", ""));
        }
    }

    private void bulk() throws IOException, InterruptedException {
        StringBuilder cells = new StringBuilder();
        int from = random.nextInt(entries.size() - 30);
        for (int i = 0; i < 30; i++) {
            cells.append(i == 0 ? "" : ",")
                    .append("{\"entry\":")
                    .append(entries.get(from + i))
                    .append(",\"language\":\"de\"}");
        }
        asked(client.json(
                "POST",
                "/api/cells/changes",
                "{\"action\":\"" + (random.nextBoolean() ? "SETTLE" : "STILL_HOLDS")
                        + "\",\"meaningConfirmed\":true,\"cells\":[" + cells + "]}"));
    }
}
