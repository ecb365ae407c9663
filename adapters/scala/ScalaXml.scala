// scala-xml: a document to Nodes and back. It is built on the JDK's SAX parser, without comments; CDATA joins text.
import java.io.{ByteArrayInputStream, StringReader}
import java.util.ArrayDeque
import org.xml.sax.{InputSource, SAXException, SAXParseException}
import scala.xml._
import scala.xml.factory.XMLLoader
import scala.xml.parsing.{FactoryAdapter, NoBindingFactoryAdapter}

class ScalaXml extends NachklangAdapter {
  import NachklangAdapter._

  override protected def implementation() = "scala-xml 1.0.3"
  override protected def format() = "xml"
  override protected def hello() = "engine java-xml " + System.getProperty("java.version") +
    "\nxml decode round-trip\ncannot-represent comments cdata doctype declarations order namespaces\nsetting namespaces=off\nsetting external=empty\n"

  override protected def load(document: Array[Byte], mode: String): Object = try {
    val loader = new XMLLoader[Elem] {
      // Nothing outside the document is opened.
      override def adapter: FactoryAdapter = new NoBindingFactoryAdapter {
        override def resolveEntity(publicId: String, systemId: String) = new InputSource(new StringReader(""))
      }
    }
    loader.loadXML(new InputSource(new ByteArrayInputStream(document)), javax.xml.parsers.SAXParserFactory.newInstance().newSAXParser())
  } catch {
    case e: SAXParseException => throw new Rejected(e.getMessage, " line=" + math.max(1, e.getLineNumber) + " column=" + math.max(1, e.getColumnNumber) + " unit=utf16")
    case e: SAXException => throw new Rejected(e.getMessage)
    case e: java.io.IOException => throw new Rejected(e.getMessage)
  }

  override protected def inside(value: Object): Inside = null

  override protected def print(root: Object, out: java.lang.StringBuilder): Unit = {
    val stack = new ArrayDeque[Object]()
    stack.push(root)
    while (!stack.isEmpty) stack.pop() match {
      case End => out.append("end\n")
      case e: Elem =>
        val qname = if (e.prefix == null) e.label else e.prefix + ":" + e.label
        out.append("elem " + field(qname) + " " + field(e.label) + " " + field(Option(e.namespace).getOrElse("")) + "\n")
        for (a <- e.attributes) {
          val name = if (a.isPrefixed) a.prefixedKey else a.key
          val uri = if (a.isPrefixed) Option(a.asInstanceOf[PrefixedAttribute].getNamespace(e)).getOrElse("") else ""
          out.append("attr " + field(name) + " " + field(a.key) + " " + field(uri) + " " + field(Option(a.value).map(_.text).getOrElse("")) + " -\n")
        }
        stack.push(End)
        for (child <- e.child.reverse) stack.push(child)
      case p: ProcInstr => out.append("pi " + field(p.target) + " " + field(p.proctext) + "\n")
      case c: Comment => out.append("comment " + field(c.commentText) + "\n")
      case r: EntityRef => out.append("ref " + field(r.entityName) + "\n")
      case a: Atom[_] => out.append("text " + field(a.data.toString) + "\n")
      case _ => ()
    }
  }

  override protected def dump(value: Object, mode: String): String = value.toString

  private object End
}

object ScalaXml {
  def main(words: Array[String]): Unit = {
    // serve() is protected in Java and reachable from here through the class alone.
    new ScalaXml { def start(): Unit = serve() }.start()
  }
}
