// A runner of one's own in Java: reads what `nachklang corpus export json --folder cases` wrote, and calls Gson.
//   java -cp /usr/share/java/gson.jar examples/java/OwnRunner.java cases
import com.google.gson.Gson;
import com.google.gson.JsonElement;
import java.nio.file.*;

class OwnRunner {
    public static void main(String[] args) throws Exception {
        int right = 0, wrong = 0;
        for (String line : Files.readAllLines(Path.of(args[0], "index.tsv")).stream().skip(1).toList()) {
            String[] field = line.split("\t", -1);  // case, stance, file, value, clause
            if (field[1].equals("open")) continue;
            String text = new String(Files.readAllBytes(Path.of(args[0], field[2])), "UTF-8");
            boolean accepted = true;
            try { new Gson().getAdapter(JsonElement.class).fromJson(text); }
            catch (Exception refused) { accepted = false; }
            if (accepted == field[1].equals("accept")) { right++; continue; }
            wrong++;
            System.out.println(field[0] + (accepted ? " accepted " : " rejected ") + field[4]);
        }
        System.out.println("right: " + right + ", wrong: " + wrong);
    }
}
