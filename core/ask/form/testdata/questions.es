name: Su nombre|Nombre y apellidos|Nombre del solicitante|Nombre del niño|Nombre completo|Persona de contacto|Nombre de los padres|¿Cómo se llama?|Nombre del inquilino|Contacto de emergencia|Nombre del paciente|Nombre del testigo|Nombre del tutor|Apellidos y nombre
email: Correo electrónico|Su correo electrónico|Dirección de correo electrónico|E-mail|Email|¿A qué correo podemos escribirle?|Correo para la factura|Correo de los padres|Confirme su correo|Correo profesional
phone: Teléfono|Número de teléfono|Móvil|Teléfono móvil|¿En qué número podemos localizarle?|Teléfono fijo|Teléfono de emergencia|Celular|Número de móvil|Tel.|Teléfono de contacto
address: Dirección|Dirección postal|¿Dónde vive?|Dirección de entrega|Dirección de facturación|Domicilio|Su dirección|Dirección del inmueble|¿Dónde lo entregamos?|Domicilio actual
date: Fecha de nacimiento|¿Cuándo nació?|Fecha|Fecha de llegada|Fecha de salida|Fecha deseada|Fecha de mudanza|¿Cuándo ocurrió?|Fecha de compra|Fecha de inicio|Fecha de caducidad|Cumpleaños|¿Para cuándo lo necesita?|Fecha del accidente|Último día de trabajo
time: Hora|Hora de llegada|¿A qué hora ocurrió?|¿A qué hora podemos llamarle?|Hora de inicio|Hora de recogida|Hora deseada
date_time: Fecha y hora|Fecha y hora de la cita|Fecha y hora del incidente|Recogida (fecha y hora)
whole_number: ¿Cuántas personas vendrán?|Número de invitados|Edad|¿Cuántos años tiene?|Número de habitaciones|Cantidad|¿Cuántos hijos tiene?|Número de noches|Año de fabricación|Kilometraje|Número de copias|Planta|Número de participantes|Número de empleados|Número de plazas
decimal: Peso en kg|Altura en cm|Longitud (m)|Distancia en km|Horas trabajadas|Temperatura en °C|Anchura en mm|Superficie en m²|¿Cuántos litros?|Estatura
money: Precio|Alquiler mensual|Importe pagado|Anticipo|Ingresos anuales|¿Cuál es su presupuesto?|Valor asegurado|Coste total|Importe de la donación|¿Cuánto costó?|Tarifa por hora|Salario deseado|Fianza|Valor del objeto|Depósito
yes_no: ¿Tiene alergias?|¿Es su primera visita?|¿Fuma?|¿Es usted socio?|¿Ha estado aquí antes?|¿Vendrá acompañado?|¿Está asegurado el vehículo?|¿Necesita plaza de aparcamiento?|¿Hubo heridos?|¿Podemos llamarle?|¿Desea factura?|¿Tiene mascota?|¿Se ha reparado antes?|¿Toma medicación?
consent: Acepto los términos y condiciones|Acepto la política de privacidad|Confirmo que los datos son correctos|Autorizo la publicación de fotos|He leído las normas|Doy mi consentimiento para el tratamiento de mis datos|Declaro que todo es cierto|Deseo recibir el boletín
long_text: Describa el problema|¿Qué pasó?|Comentarios|Háblenos de usted|¿Algo más que debamos saber?|Describa los daños|Peticiones especiales|Motivo de la solicitud|Información adicional|Mensaje|Observaciones|¿Por qué quiere participar?|¿Qué podemos mejorar?|Historial médico|Explique|Notas|Su opinión|Descripción|Detalles del incidente|Sugerencias
rating: ¿Qué tan satisfecho está?|Valore nuestro servicio|¿Cómo valora su estancia?|Valoración general|Grado de satisfacción|Califique la comida
upload: Adjunte su CV|Copia del pasaporte|Documentos justificativos|Adjunte la factura|Suba sus documentos|Certificado (PDF)|Comprobante de domicilio
photo: Foto de los daños|Imagen del instrumento|Fotos de la habitación|Foto de carné|Foto de su perro
signature: Firma|Firme aquí|Firma del inquilino|Su firma|Firma de los padres
web_address: Sitio web|Página web|Enlace a su portafolio|URL|Web|Dirección web
short_text: Empresa|Profesión|Número de serie|Modelo|Matrícula|Número de pedido|Asunto|Nacionalidad|Ciudad|Código postal|País|Número de socio|Marca y modelo|Número de pasaporte|Nombre del colegio|Nombre de la empresa|Nombre del producto|Título del proyecto|Número de póliza|Color|Marca|Departamento|Nombre del evento|IBAN|NIF|Número de cliente
