package mellow.server.note;

import java.util.List;
import java.util.Map;
import mellow.core.language.LanguageTag;
import mellow.server.cell.CellService;
import mellow.server.cell.StoryLine;
import mellow.server.check.CheckService;
import mellow.server.check.CheckService.CheckReply;
import mellow.server.code.CodeUses;
import mellow.server.code.CodeUses.CodePlace;
import mellow.server.memory.MemoryHit;
import mellow.server.memory.MemoryService;
import mellow.server.question.QuestionService;
import mellow.server.question.QuestionService.Question;
import mellow.server.rehearsal.SceneService;
import mellow.server.rehearsal.SceneService.ShownOn;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Gathers what is to be said about a cell, so that resting on it is one request. */
@Service
public class NoteService {

    private final MemoryService memory;
    private final CheckService checks;
    private final CellService cells;
    private final QuestionService questions;
    private final SceneService scenes;
    private final CodeUses code;

    NoteService(
            MemoryService memory,
            CheckService checks,
            CellService cells,
            QuestionService questions,
            SceneService scenes,
            CodeUses code) {
        this.memory = memory;
        this.checks = checks;
        this.cells = cells;
        this.questions = questions;
        this.scenes = scenes;
        this.code = code;
    }

    /**
     * What is to be said about a cell.
     *
     * @param memory settled texts of similar sources
     * @param check what the checks and the wordbook say
     * @param story the cell's story, newest first
     * @param questions about the entry, the newest first
     * @param scenes where the entry is shown
     * @param code the places in code that use it
     */
    public record Notes(
            List<MemoryHit> memory,
            CheckReply check,
            List<StoryLine> story,
            List<Question> questions,
            List<ShownOn> scenes,
            List<CodePlace> code) {}

    /**
     * The notes of a cell, all as of one moment.
     *
     * @param shown the text that the cell shows, by form
     */
    @Transactional(readOnly = true)
    public Notes of(long entry, LanguageTag language, Map<String, String> shown) {
        return new Notes(
                memory.hits(entry, language),
                checks.check(entry, language, shown),
                cells.story(entry, language),
                questions.of(entry),
                scenes.showing(entry),
                code.of(entry));
    }
}
