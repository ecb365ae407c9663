--  GNATCOLL.JSON: Read by text with a parse error as a value.
with Ada.Command_Line;
with Ada.Exceptions;
with Ada.Containers.Vectors;
with Ada.Strings.Unbounded; use Ada.Strings.Unbounded;
with Ada.Unchecked_Conversion;
with GNAT.OS_Lib;
with GNATCOLL.JSON;         use GNATCOLL.JSON;
with Interfaces;            use Interfaces;
with Interfaces.C;

procedure Gnatcoll_Adapter is
   package OS renames GNAT.OS_Lib;
   use type OS.File_Descriptor;
   use type Interfaces.C.int;

   function Dup (From : Interfaces.C.int) return Interfaces.C.int with Import, Convention => C, External_Name => "dup";
   function Dup2 (From, To : Interfaces.C.int) return Interfaces.C.int
   with Import, Convention => C, External_Name => "dup2";

   Replies : constant OS.File_Descriptor := OS.File_Descriptor (Dup (1));

   procedure Send (Text : String) is
      First : Natural := Text'First;
   begin
      while First <= Text'Last loop
         First := First + OS.Write (Replies, Text (First)'Address, Text'Last - First + 1);
      end loop;
   end Send;

   Buffer : String (1 .. 65_536);
   Filled : Natural := 0;
   Next   : Positive := 1;

   --  The next byte; Found is False at the end of input.
   procedure Get (Byte : out Character; Found : out Boolean) is
   begin
      if Next > Filled then
         Filled := OS.Read (OS.Standin, Buffer'Address, Buffer'Length);
         Next := 1;
      end if;
      Found := Filled > 0;
      Byte := (if Found then Buffer (Next) else ' ');
      Next := Next + 1;
   end Get;

   Digit : constant String := "0123456789abcdef";

   procedure Add_Hex (Out_Text : in out Unbounded_String; Text : String) is
   begin
      for C of Text loop
         Append (Out_Text, Digit (Character'Pos (C) / 16 + 1));
         Append (Out_Text, Digit (Character'Pos (C) mod 16 + 1));
      end loop;
   end Add_Hex;

   procedure Add_Field (Out_Text : in out Unbounded_String; Word, Text : String) is
   begin
      Append (Out_Text, Word & " u8:");
      Add_Hex (Out_Text, Text);
      Append (Out_Text, ASCII.LF);
   end Add_Field;

   function Bits is new Ada.Unchecked_Conversion (Long_Float, Unsigned_64);

   function Hex_Of (Value : Unsigned_64) return String is
      Rest : Unsigned_64 := Value;
   begin
      return Out_Text : String (1 .. 16) do
         for C of reverse Out_Text loop
            C := Digit (Natural (Rest mod 16) + 1);
            Rest := Rest / 16;
         end loop;
      end return;
   end Hex_Of;

   type Entry_Kind is (Value_Entry, Text_Entry);
   type Item (Kind : Entry_Kind := Text_Entry) is record
      case Kind is
         when Value_Entry => Value : JSON_Value;
         when Text_Entry  => Text : Unbounded_String;
      end case;
   end record;
   package Items is new Ada.Containers.Vectors (Positive, Item);

   --  A stack of what is still to be printed takes the place of recursion.
   procedure Print (Root : JSON_Value; Lines : in out Unbounded_String) is
      Stack : Items.Vector;
   begin
      Stack.Append (Item'(Value_Entry, Root));
      while not Stack.Is_Empty loop
         declare
            Top : constant Item := Stack.Last_Element;
         begin
            Stack.Delete_Last;
            if Top.Kind = Text_Entry then
               Append (Lines, Top.Text);
            else
               case Top.Value.Kind is
                  when JSON_Null_Type    => Append (Lines, "null" & ASCII.LF);
                  when JSON_Boolean_Type =>
                     Append (Lines, (if Boolean'(Top.Value.Get) then "true" else "false") & ASCII.LF);
                  when JSON_Int_Type     =>
                     declare
                        Image : constant String := Long_Long_Integer'Image (Top.Value.Get);
                     begin
                        Append (Lines, "int " & (if Image (1) = ' ' then Image (2 .. Image'Last) else Image) & ASCII.LF);
                     end;
                  when JSON_Float_Type   =>
                     Append (Lines, "binary64 " & Hex_Of (Bits (Top.Value.Get_Long_Float)) & ASCII.LF);
                  when JSON_String_Type  => Add_Field (Lines, "str", Top.Value.Get);
                  when JSON_Array_Type   =>
                     declare
                        Inside : constant JSON_Array := Top.Value.Get;
                     begin
                        Append (Lines, "[" & ASCII.LF);
                        Stack.Append (Item'(Text_Entry, To_Unbounded_String ("]" & ASCII.LF)));
                        for I in reverse 1 .. Length (Inside) loop
                           Stack.Append (Item'(Value_Entry, Get (Inside, I)));
                        end loop;
                     end;
                  when JSON_Object_Type  =>
                     declare
                        Inside : Items.Vector;
                        procedure Add (Name : String; Value : JSON_Value) is
                           Key : Unbounded_String;
                        begin
                           Add_Field (Key, "key", Name);
                           Inside.Append (Item'(Text_Entry, Key));
                           Inside.Append (Item'(Value_Entry, Value));
                        end Add;
                     begin
                        Append (Lines, "{" & ASCII.LF);
                        Top.Value.Map_JSON_Object (Add'Access);
                        Stack.Append (Item'(Text_Entry, To_Unbounded_String ("}" & ASCII.LF)));
                        for I in reverse 1 .. Natural (Inside.Length) loop
                           Stack.Append (Inside (I));
                        end loop;
                     end;
               end case;
            end if;
         end;
      end loop;
   end Print;

   procedure Reply (Kind, Id, Place, Bytes : String) is
      Size : constant String := Natural'Image (Bytes'Length);
   begin
      Send (Kind & Size & " id=" & Id & Place & ASCII.LF & Bytes);
   end Reply;

   function Image (Value : Integer) return String is
      Text : constant String := Integer'Image (Value);
   begin
      return Text (2 .. Text'Last);
   end Image;

   --  Set while the library runs: what it raises is its own; what is raised elsewhere is a fault of this adapter.
   In_Library : Boolean := False;

   function Parsed (Document : String) return Read_Result is
   begin
      In_Library := True;
      return Result : constant Read_Result := Read (Document) do
         In_Library := False;
      end return;
   end Parsed;

   function Written (Value : JSON_Value) return String is
   begin
      In_Library := True;
      return Text : constant String := Write (Value) do
         In_Library := False;
      end return;
   end Written;

   procedure Answer_To (Operation, Document, Id : String; Wanted : Boolean) is
      Result : constant Read_Result := Parsed (Document);
   begin
      if not Result.Success then
         Reply ("rejected", Id,
                " line=" & Image (Result.Error.Line) & " column=" & Image (Result.Error.Column),
                To_String (Result.Error.Message));
      elsif Operation = "round-trip" then
         Reply ("accepted", Id, "", Written (Result.Value));
      else
         declare
            Lines : Unbounded_String;
         begin
            if Wanted then
               Print (Result.Value, Lines);
            end if;
            Reply ("accepted", Id, "", To_String (Lines));
         end;
      end if;
   end Answer_To;

   procedure Answer (Operation, Document, Id : String; Wanted : Boolean) is
   begin
      In_Library := False;
      Answer_To (Operation, Document, Id, Wanted);
   exception
      when Problem : Storage_Error =>
         Reply ((if In_Library then "exhausted" else "adapter-fault"), Id, "", Ada.Exceptions.Exception_Message (Problem));
      when Problem : others =>
         Reply ((if In_Library then "threw" else "adapter-fault"), Id, "", Ada.Exceptions.Exception_Information (Problem));
   end Answer;

   Line  : Unbounded_String;
   Byte  : Character;
   Found : Boolean;
begin
   if Dup2 (2, 1) < 0 then
      Ada.Command_Line.Set_Exit_Status (3);
      return;
   end if;
   Send ("nachklang-adapter 1" & ASCII.LF & "implementation gnatcoll-json 23.0.0" & ASCII.LF & "json decode round-trip" & ASCII.LF
         & ASCII.LF);
   loop
      Get (Byte, Found);
      exit when not Found;
      if Byte /= ASCII.LF then
         Append (Line, Byte);
      else
         declare
            Head  : constant String := To_String (Line) & " ";
            First : Positive := Head'First;
            Count : Natural := 0;
            Size  : Natural := 0;
            Operation, Id : Unbounded_String;
            Known, Wanted : Boolean := True;
         begin
            for I in Head'Range loop
               if Head (I) = ' ' then
                  declare
                     Word : constant String := Head (First .. I - 1);
                  begin
                     Count := Count + 1;
                     case Count is
                        when 1      => Operation := To_Unbounded_String (Word);
                        when 2      => Known := Word = "json";
                        when 3      => Size := Natural'Value (Word);
                        when others =>
                           if Word'Length > 3 and then Word (Word'First .. Word'First + 2) = "id=" then
                              Id := To_Unbounded_String (Word (Word'First + 3 .. Word'Last));
                           elsif Word = "show=nothing" then
                              Wanted := False;
                           elsif Word /= "show=trace"
                             and then (Word'Length < 5 or else Word (Word'First .. Word'First + 4) /= "mode=")
                           then
                              Known := False;
                           end if;
                     end case;
                     First := I + 1;
                  end;
               end if;
            end loop;
            Line := Null_Unbounded_String;
            declare
               Document : constant OS.String_Access := new String (1 .. Size);
            begin
               for C of Document.all loop
                  Get (C, Found);
               end loop;
               if Known and then (Operation = "decode" or else Operation = "round-trip") then
                  Answer (To_String (Operation), Document.all, To_String (Id), Wanted);
               else
                  Reply ("unsupported", To_String (Id), "", "");
               end if;
               declare
                  Old : OS.String_Access := Document;
               begin
                  OS.Free (Old);
               end;
            end;
         end;
      end if;
   end loop;
end Gnatcoll_Adapter;
