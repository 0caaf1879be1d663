package weftex.core.changeset;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;
import weftex.core.change.Action;
import weftex.core.change.ChangeSetHeader;
import weftex.core.change.Head;
import weftex.core.change.Item;
import weftex.core.change.Outline;
import weftex.core.change.RowChange;
import weftex.core.change.SchemaChange;
import weftex.core.change.Ties;
import weftex.core.change.Trace;
import weftex.core.merge.ConflictKind;
import weftex.core.row.RowName;
import weftex.core.row.Value;
import weftex.core.signoff.Answer;
import weftex.core.signoff.Approval;
import weftex.core.signoff.Withdrawal;

class ChangeSetFileTest {

  private static Map<String, Value> everyKind() {
    Map<String, Value> values = new LinkedHashMap<>();
    values.put("nothing", Value.NULL);
    values.put("empty", Value.text(""));
    values.put("emoji", Value.text("🏮 \n\t\"quoted\"\u0000 end "));
    values.put("damaged", new Value.Text(new byte[] {'a', (byte) 0xC3, (byte) 0x28}));
    values.put("bytes", new Value.Binary(new byte[] {0, -1, 127}));
    values.put("small", Value.whole(-9007199254740992L));
    values.put("large", new Value.Whole(new BigInteger("18446744073709551615")));
    values.put("price", new Value.Decimal("12.50"));
    values.put("parent", new Value.Fresh(new RowName("pages", BigInteger.TEN)));
    values.put("long", Value.Digest.of(new byte[5000]));
    return values;
  }

  @Test
  void everyKindOfValueComesBackAsItWas() throws Exception {
    RowChange written = everything(1);
    assertThat(Changes.changes(Changes.file(written))).containsExactly(written);
  }

  private static RowChange everything(int id) {
    return new RowChange(
        new Head(
            id,
            Action.UPDATE,
            "pages",
            Map.of("id", Value.whole(4)),
            Optional.of(new RowName("pages", BigInteger.ONE)),
            true,
            new Ties(
                true,
                Optional.of(3),
                List.of(4, 5),
                Optional.of(2),
                List.of(new Ties.Need(7, ConflictKind.MISSING_PARENT, List.of("parent"))),
                Map.of(new Ties.Hanger("notes", List.of("page", "part"), List.of("id", "no")), 3L)),
            Optional.of(new Item("page", "Fares '27", "detail")),
            new Trace(
                "/fares",
                new Trace.Touch("Ola", "2026-11-20T14:05:00"),
                Trace.Touch.UNKNOWN,
                "changed on staging")),
        everyKind(),
        everyKind(),
        Map.of(),
        List.of(Changes.conflict(ConflictKind.BOTH_EDITED, false, "title")));
  }

  /** Without values; with proof line by line, without it as one stream. */
  @ParameterizedTest(name = "proof: {0}")
  @ValueSource(booleans = {true, false})
  void anOutlineHasEverythingButValuesAndSaysWhereTheyStand(boolean proof) throws Exception {
    SchemaChange column = Changes.newColumn(1, "pages", "fee");
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    ChangeSetWriter writer = new ChangeSetWriter(out, Changes.HEADER);
    writer.write(column);
    RowChange removal =
        Changes.change(
            3,
            Action.REMOVE,
            Map.of("title", Value.text("a")),
            Map.of(),
            List.of(),
            false,
            List.of());
    for (RowChange change : List.of(everything(2), removal)) {
      writer.write(change);
    }
    writer.finish();
    out.write(DecisionLine.of(Changes.decision(Answer.SKIP, "", 3)));
    out.write(DecisionLine.of(new Withdrawal(1, "Ola", "now")));
    byte[] file = out.toByteArray();
    List<SchemaChange> schema = new ArrayList<>();
    List<Outline> outlines = new ArrayList<>();
    List<byte[]> lines = new ArrayList<>();
    ChangeSetContents contents =
        ChangeSetReader.read(
            new ByteArrayInputStream(file),
            new ChangeSetReader.Visitor() {
              @Override
              public boolean wantsValues() {
                return false;
              }

              @Override
              public boolean wantsProof() {
                return proof;
              }

              @Override
              public void place(long offset, int length) {
                lines.add(Arrays.copyOfRange(file, (int) offset, (int) offset + length));
              }

              @Override
              public void schema(SchemaChange change) {
                schema.add(change);
              }

              @Override
              public void outline(Outline change) {
                outlines.add(change);
              }
            });
    assertThat(schema).containsExactly(column);
    assertThat(ChangeSetReader.change(lines.get(1))).isEqualTo(everything(2));
    assertThat(ChangeSetReader.change(lines.get(2))).isEqualTo(removal);
    assertThat(outlines).containsExactly(everything(2).outline(), removal.outline());
    assertThat(outlines.get(0).written()).isEqualTo(everyKind().keySet());
    assertThat(outlines.get(0).contests().get(0).columns()).containsExactly("title");
    assertThat(contents.header()).isEqualTo(Changes.HEADER);
    assertThat(contents.decisions()).hasSize(1);
    assertThat(contents.held()).isEmpty();
    assertThat(contents.sha256().isEmpty()).isNotEqualTo(proof);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "{\"change\":1,\"do\":\"update\",\"table\":7,\"key\":{}}",
        "{\"change\":1,\"do\":\"add\",\"table\":\"pages\",\"key\":7,\"after\":{}}",
        "{\"change\":1,\"do\":\"twist\",\"table\":\"pages\",\"key\":{}}",
        "{\"change\":1,\"do\":\"add\",\"table\":\"pages\",\"key\":{\"id\":true}}",
        "{\"change\":1,\"do\":\"add\",\"table\":\"pages\",\"key\":{}} {\"change\":2}",
        "{\"change\":1,\"do\":\"add\",\"table\":\"pages\",\"item\":{\"kind\":\"page\"}}",
      })
  void aChangeWithAWrongMemberIsNamed(String line) throws Exception {
    String file = new String(Changes.file(), StandardCharsets.UTF_8);
    int drafted = file.indexOf("{\"drafted\"");
    byte[] wrong =
        (file.substring(0, drafted) + line + "\n" + file.substring(drafted))
            .getBytes(StandardCharsets.UTF_8);
    ChangeSetProblem problem =
        catchThrowableOfType(ChangeSetProblem.class, () -> Changes.read(wrong));
    assertThat(problem.kind()).isEqualTo(ChangeSetProblem.Kind.MALFORMED);
    assertThat(problem.line()).isEqualTo(2);
  }

  @Test
  void theHeaderIsReadWithoutTheRest() throws Exception {
    String file = new String(Changes.file(), StandardCharsets.UTF_8);
    String onlyItsLine = file.substring(0, file.indexOf('\n') + 1);
    assertThat(header(onlyItsLine)).isEqualTo(Changes.HEADER);
    assertThat(header(onlyItsLine + "whatever follows")).isEqualTo(Changes.HEADER);
    for (String wrong : List.of("", onlyItsLine.strip(), "{}\n", "site: skerrow\n")) {
      assertThat(catchThrowableOfType(ChangeSetProblem.class, () -> header(wrong))).isNotNull();
    }
  }

  private static ChangeSetHeader header(String file) throws Exception {
    return ChangeSetReader.header(new ByteArrayInputStream(file.getBytes(StandardCharsets.UTF_8)));
  }

  @Test
  void theHeaderComesBackAsItWas() throws Exception {
    ChangeSetContents contents = Changes.read(Changes.file());
    assertThat(contents.header()).isEqualTo(Changes.HEADER);
    assertThat(contents.isApproved()).isFalse();
  }

  @Test
  void longUnchangedValuesAreCarriedAsDigests() throws Exception {
    Value longText = Value.text("x".repeat(10_000));
    RowChange change =
        Changes.update(
            1,
            Map.of("title", Value.text("a"), "body", longText),
            Map.of("title", Value.text("b")));
    byte[] file = Changes.file(change);
    assertThat(file.length).isLessThan(2000);
    Value body = Changes.changes(file).get(0).before().get("body");
    assertThat(body.matches(longText)).isTrue();
  }

  @Test
  void decisionsAndApprovalsAreAppended() throws Exception {
    byte[] file = Changes.file(Changes.update(1, Map.of(), Map.of("title", Value.text("b"))));
    file = Changes.plus(file, DecisionLine.of(Changes.decision(Answer.SKIP, "", 1)));
    String hash = Changes.read(file).sha256();
    byte[] approved = Changes.plus(file, DecisionLine.of(Approval.unsigned("Mira", "now", hash)));
    assertThat(Changes.read(approved).isApproved()).isTrue();
    byte[] later = Changes.plus(approved, DecisionLine.of(Changes.decision(Answer.INCLUDE, "", 1)));
    assertThat(Changes.read(later).isApproved()).isFalse();
    assertThat(Changes.read(later).approvals()).hasSize(1);
    assertThat(Changes.read(later).draft()).isEqualTo(Changes.read(file).draft());
  }

  /** Ways in which a file goes wrong on its way. */
  enum Harm {
    CUT_IN_A_LINE(ChangeSetProblem.Kind.CUT_SHORT) {
      @Override
      byte[] to(byte[] file) {
        return Arrays.copyOf(file, file.length - 10);
      }
    },
    CUT_IN_A_DECISION(ChangeSetProblem.Kind.TORN) {
      @Override
      byte[] to(byte[] file) throws IOException {
        return Changes.plus(file, bytes("{\"decision\":{\"chan"));
      }
    },
    CUT_BETWEEN_LINES(ChangeSetProblem.Kind.CUT_SHORT) {
      @Override
      byte[] to(byte[] file) {
        String text = new String(file, StandardCharsets.UTF_8);
        return bytes(text.substring(0, text.indexOf("{\"drafted\"")));
      }
    },
    EDITED(ChangeSetProblem.Kind.ALTERED) {
      @Override
      byte[] to(byte[] file) {
        return bytes(
            new String(file, StandardCharsets.UTF_8).replace("\"new title\"", "\"NEW TITLE\""));
      }
    },
    CHANGE_TAKEN_OUT(ChangeSetProblem.Kind.ALTERED) {
      @Override
      byte[] to(byte[] file) {
        return bytes(
            new String(file, StandardCharsets.UTF_8).replaceFirst("\\{\"change\":1.*\n", ""));
      }
    },
    NEWER(ChangeSetProblem.Kind.NEWER_FORMAT) {
      @Override
      byte[] to(byte[] file) {
        return bytes(
            new String(file, StandardCharsets.UTF_8).replace("\"format\":4", "\"format\":5"));
      }
    },
    SOMETHING_ELSE(ChangeSetProblem.Kind.NOT_A_CHANGE_SET) {
      @Override
      byte[] to(byte[] file) {
        return bytes("site: skerrow\n");
      }
    },
    EMPTY(ChangeSetProblem.Kind.NOT_A_CHANGE_SET) {
      @Override
      byte[] to(byte[] file) {
        return new byte[0];
      }
    },
    FORGED_APPROVAL(ChangeSetProblem.Kind.ALTERED) {
      @Override
      byte[] to(byte[] file) throws IOException {
        return Changes.plus(
            file, DecisionLine.of(Approval.unsigned("Mira", "now", "0".repeat(64))));
      }
    },
    NAME_EXCHANGED(ChangeSetProblem.Kind.ALTERED) {
      @Override
      byte[] to(byte[] file) throws IOException {
        byte[] approval = DecisionLine.of(Approval.unsigned("Mira", "now", sha256(file)));
        return Changes.plus(
            file, bytes(new String(approval, StandardCharsets.UTF_8).replace("Mira", "Boss")));
      }
    },
    NAMELESS_APPROVAL(ChangeSetProblem.Kind.ALTERED) {
      @Override
      byte[] to(byte[] file) throws IOException {
        return Changes.plus(file, DecisionLine.of(Approval.unsigned(" ", "now", sha256(file))));
      }
    },
    CHANGE_APPENDED(ChangeSetProblem.Kind.ALTERED) {
      @Override
      byte[] to(byte[] file) throws IOException {
        return Changes.plus(file, ChangeSetWriter.line(Changes.update(3, Map.of(), Map.of())));
      }
    };

    private final ChangeSetProblem.Kind kind;

    Harm(ChangeSetProblem.Kind kind) {
      this.kind = kind;
    }

    abstract byte[] to(byte[] file) throws IOException;

    static String sha256(byte[] file) throws IOException {
      try {
        return Changes.read(file).sha256();
      } catch (ChangeSetProblem e) {
        throw new IOException(e);
      }
    }

    static byte[] bytes(String text) {
      return text.getBytes(StandardCharsets.UTF_8);
    }
  }

  @ParameterizedTest
  @EnumSource(Harm.class)
  void aHarmedFileIsRecognised(Harm harm) throws Exception {
    byte[] file =
        Changes.file(
            Changes.update(1, Map.of(), Map.of("title", Value.text("new title"))),
            Changes.update(2, Map.of(), Map.of("title", Value.text("other"))));
    byte[] harmed = harm.to(file);
    ChangeSetProblem problem =
        catchThrowableOfType(ChangeSetProblem.class, () -> Changes.read(harmed));
    assertThat(problem.kind()).isEqualTo(harm.kind);
  }
}
